import { placementWords } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, printJson, printProse } from '../output.js';
import { FINDINGS } from '../texts/findings.js';
import { say } from '../texts/say.js';

interface Options extends SiteOptions {
  readonly of: string;
  readonly right?: boolean;
  readonly preview?: boolean;
}

const VERDICTS = {
  fine: colour.green('fine '),
  race: colour.yellow('race '),
  wrong: colour.red('wrong'),
} as const;

export function order(program: Command): void {
  withSite(program.command('order'))
    .description(FINDINGS.whatNeedsWhat)
    .option('--of <set>', FINDINGS.draftLiveStaging, 'draft')
    .option('--right', FINDINGS.putDraftInto)
    .option('--preview', FINDINGS.rightOnlyShow)
    .addHelpText('after', FINDINGS.examplesPragmaticaOrder)
    .action(async (options: Options) => {
      if (options.right && options.of !== 'draft') throw new CliError(FINDINGS.onlyDraftCan);
      if (options.preview && !options.right) throw new CliError(FINDINGS.previewGoesRight);
      const client = clientFor(options);
      const site = await siteFor(client, options);
      if (options.right) {
        const preview = options.preview === true;
        const { data } = await client.call('rightOrder', { params: { site }, body: { preview } });
        if (options.json) printJson(data);
        else if (data.changes.length === 0) printProse(FINDINGS.nothingHasMoved);
        else {
          printProse(colour.bold(preview ? FINDINGS.wouldPutRight : FINDINGS.putRightDraft));
          for (const sentence of data.changes) printProse(`  ${sentence}`);
        }
        return;
      }
      const { data } = await client.call('showOrderReport', { params: { site }, query: { of: options.of } });
      const needs = [...data.dependencies, ...data.ofPages];
      if (needs.some(({ verdict }) => verdict === 'wrong')) process.exitCode = EXIT.found;
      if (options.json) {
        printJson(data);
        return;
      }
      if (needs.length === 0) {
        printProse(FINDINGS.noneSnippetsNeeds);
        return;
      }
      for (const { verdict, because } of needs) printProse(`${VERDICTS[verdict]}  ${because}`);
      for (const cycle of data.cycles)
        printProse(say(FINDINGS.inACircle, { circle: colour.red(FINDINGS.circle), parts: cycle.join(', ') }));
      if (data.moves.length === 0) return;
      printProse(colour.bold(FINDINGS.rightOrder));
      for (const { sentence, placement } of data.moves)
        printProse(`  ${sentence} ${colour.dim(`(${placementWords(placement)})`)}`);
      if (options.of === 'draft') printProse(FINDINGS.doPragmaticaOrder);
    });
}
