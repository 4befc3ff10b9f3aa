import type { VerificationEvent } from '@pragmatica/contract';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { Progress, colour, count, note, print, printJson, table } from '../output.js';

type PageEvent = Extract<VerificationEvent, { type: 'page' }>;
type Delivery = PageEvent['parts'][number];

export function verify(program: Command): void {
  withSite(program.command('verify [paths...]'))
    .description('fetch every known page from the live host and check that each snippet is there')
    .addOption(new Option('--environment <name>', 'which').choices(['live', 'staging']).default('live'))
    .addHelpText(
      'after',
      '\nExits with 1 when anything is missing, in the wrong place, there twice, or a page cannot be fetched.\n\nExamples:\n  pragmatica verify\n  pragmatica verify / /booking',
    )
    .action(async (paths: string[], options: SiteOptions & { environment: 'live' | 'staging' }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const abort = new AbortController();
      process.once('SIGINT', () => abort.abort());
      const progress = new Progress();
      const pages: PageEvent[] = [];
      let start: Extract<VerificationEvent, { type: 'start' }> | undefined;
      const body = { environment: options.environment, ...(paths.length > 0 ? { paths } : {}) };
      try {
        for await (const event of client.stream('verify', { params: { site }, body }, abort.signal)) {
          if (event.type === 'start') start = event;
          else if (event.type === 'page') {
            pages.push(event);
            progress.update(`${pages.length} of ${start?.total ?? '?'}  ${event.path}`);
          } else if (event.type === 'failed') throw new CliError(event.message, EXIT.failed);
        }
      } finally {
        progress.end();
      }
      if (options.json) printJson({ address: start?.address, release: start?.release, pages });
      else report(start!, pages);
      const isWell = pages.every(
        (page) =>
          page.problem === null &&
          page.parts.every((part) => part.state === 'delivered' || part.state === 'left-out'),
      );
      if (!isWell) process.exitCode = EXIT.found;
    });
}

const MARKS: Record<Delivery['state'], string> = {
  delivered: colour.green('delivered'),
  missing: colour.red('missing'),
  'wrong-place': colour.red('wrong place'),
  twice: colour.red('twice'),
  'left-out': colour.yellow('left out'),
};

/** From well to worst. */
const SEVERITY: readonly Delivery['state'][] = ['delivered', 'left-out', 'twice', 'wrong-place', 'missing'];

function partsBySnippet(page: PageEvent): Map<string, Delivery[]> {
  const groups = new Map<string, Delivery[]>();
  for (const part of page.parts) groups.set(part.snippet, [...(groups.get(part.snippet) ?? []), part]);
  return groups;
}

interface SnippetSummary {
  readonly name: string;
  readonly states: Map<Delivery['state'], number>;
  /** The paths of the pages, by what is wrong there. */
  readonly problems: Map<string, string[]>;
}

function newSummary(name: string): SnippetSummary {
  return { name, states: new Map(), problems: new Map() };
}

function report(
  start: { address: string; release: number; total: number },
  pages: readonly PageEvent[],
): void {
  print(`${start.address}, release ${start.release}: ${count(pages.length, 'page')} looked at.\n`);
  const bySnippet = new Map<string, SnippetSummary>();
  for (const page of pages) {
    for (const [key, parts] of partsBySnippet(page)) {
      const entry = bySnippet.get(key) ?? newSummary(parts[0]!.name);
      bySnippet.set(key, entry);
      // A snippet counts as its worst part: half an install is no install.
      const worst = parts.reduce((a, b) => (SEVERITY.indexOf(b.state) > SEVERITY.indexOf(a.state) ? b : a));
      entry.states.set(worst.state, (entry.states.get(worst.state) ?? 0) + 1);
      for (const part of parts) {
        if (part.state === 'delivered') continue;
        entry.problems.set(part.message, [...(entry.problems.get(part.message) ?? []), page.path]);
      }
    }
  }
  const rows = [...bySnippet].map(([key, { name, states }]) => [
    colour.bold(key),
    [...states].map(([state, number]) => `${MARKS[state]} ${number}`).join('  '),
    name,
  ]);
  print(
    rows.length > 0
      ? table(['SNIPPET', 'ON HOW MANY PAGES', 'NAME'], rows)
      : 'No snippet is expected on these pages.',
  );
  for (const { name, problems } of bySnippet.values()) {
    for (const [message, paths] of problems)
      print(`\n${colour.bold(name)}\n  ${message}\n  ${colour.dim(paths.join('  '))}`);
  }
  const failed = pages.filter((page) => page.problem !== null);
  if (failed.length > 0) print(`\n${colour.red('Pages that could not be checked')}`);
  for (const page of failed) print(`  ${page.path}  ${page.problem!}`);
  if (failed.length === 0 && [...bySnippet.values()].every(({ problems }) => problems.size === 0))
    note(colour.green('\nEverything stands where it should.'));
}
