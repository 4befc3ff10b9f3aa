import type { CoverageResource } from '@pragmatica/contract';
import { coverageCsv } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { EXIT } from '../errors.js';
import { colour, print, printJson, table } from '../output.js';
import { SURVEY } from '../texts/survey.js';

export function coverage(program: Command): void {
  withSite(program.command('coverage'))
    .description(SURVEY.coverageOf)
    .option('--csv', SURVEY.asCsv)
    .option('--survey <number>', SURVEY.ofSurvey)
    .addHelpText('after', SURVEY.coverageExamples)
    .action(async (options: SiteOptions & { csv?: boolean; survey?: string }) => {
      const client = clientFor(options);
      const site = await siteFor(client, options);
      const survey = options.survey === undefined ? ('latest' as const) : Number(options.survey);
      const { data } = await client.call('showCoverage', { params: { site, survey } });
      if (options.json) printJson(data);
      else if (options.csv) process.stdout.write(coverageCsv(data));
      else if (data.snippets.length === 0) print(SURVEY.nothingExpected);
      else report(data);
      if (data.snippets.some(({ present, expected }) => present < expected)) process.exitCode = EXIT.found;
    });
}

function report({ rows, snippets }: CoverageResource): void {
  print(
    table(
      ['SNIPPET', SURVEY.coverageHead, 'NAME', ''],
      snippets.map(({ snippet, present, expected, name, words }) => [
        colour.bold(snippet),
        present < expected
          ? colour.red(`${present} / ${expected}`)
          : colour.green(`${present} / ${expected}`),
        name,
        words,
      ]),
    ),
  );
  const gaps = rows.flatMap((row) =>
    Object.entries(row.cells)
      .filter(([, cell]) => cell.present < cell.expected)
      .map(([snippet, cell]) => [row.section, row.type, snippet, `${cell.present} / ${cell.expected}`]),
  );
  if (gaps.length === 0) return;
  print(colour.red(SURVEY.missingTitle));
  print(table([SURVEY.section, SURVEY.type, 'SNIPPET', SURVEY.coverageHead], gaps));
}
