import { SEVERITIES, runChecks, type Finding, type Severity } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { EXIT } from '../errors.js';
import { colour, count, print, printJson } from '../output.js';
import { readSet } from '../set-file.js';

interface Options extends SiteOptions {
  readonly of: string;
  readonly set?: string;
  readonly failOn: 'error' | 'warning';
}

export function check(program: Command): void {
  withSite(program.command('check'))
    .description('look through the whole set for what is wrong or could be better')
    .option('--of <set>', 'draft, live, staging or the number of a release', 'draft')
    .option('--set <file>', 'check a set from a file, without the service')
    .addOption(
      new Option('--fail-on <severity>', 'exit with 1 from this severity on')
        .choices(['error', 'warning'])
        .default('error'),
    )
    .addHelpText(
      'after',
      '\n"pragmatica explain CHECK" says more about a check.\n\nExamples:\n  pragmatica check\n  pragmatica check --set set.json --fail-on warning',
    )
    .action(async (options: Options) => {
      const findings = options.set === undefined ? await ask(options) : runChecks(readSet(options.set));
      if (options.json) printJson({ items: findings });
      else report(findings);
      const failing = options.failOn === 'warning' ? ['error', 'warning'] : ['error'];
      if (findings.some(({ severity }) => failing.includes(severity))) process.exitCode = EXIT.found;
    });
}

async function ask(options: Options): Promise<readonly Finding[]> {
  const client = clientFor(options);
  const site = await siteFor(client, options);
  const { data } = await client.call('listFindings', { params: { site }, query: { of: options.of } });
  return data.items;
}

const TITLES: Readonly<Record<Severity, (number: number) => string>> = {
  error: (number) => colour.red(count(number, 'error')),
  warning: (number) => colour.yellow(count(number, 'warning')),
  advice: (number) => colour.cyan(`${number} to think about`),
};

function report(findings: readonly Finding[]): void {
  if (findings.length === 0) {
    print('Nothing to say: the checks find this set in order.');
    return;
  }
  for (const severity of SEVERITIES) {
    const some = findings.filter((finding) => finding.severity === severity);
    if (some.length === 0) continue;
    print(`${colour.bold(TITLES[severity](some.length))}\n`);
    for (const finding of some) tell(finding);
  }
}

function tell({ title, why, advice, evidence, fix, id }: Finding): void {
  print(`  ${colour.bold(title)}  ${colour.dim(id)}`);
  for (const { part, line, column, note, text } of evidence)
    print(
      `    ${colour.dim(`${part}, line ${line}, column ${column}:`)} ${note}\n      ${colour.dim(text.replace(/\s+/g, ' '))}`,
    );
  print(`    ${why}`);
  print(`    ${colour.green('→')} ${advice}`);
  if (fix) print(`    ${colour.green('→')} Or: pragmatica fix ${id}  ${colour.dim(`(${fix.title})`)}`);
  print();
}
