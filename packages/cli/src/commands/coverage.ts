import type { CoverageResource } from '@pragmatica/contract';
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
      else if (options.csv) printCsv(data);
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

/** A row for each section and type, a column for each snippet (RFC 4180). */
function printCsv({ rows, snippets }: CoverageResource): void {
  const lines = [
    [
      'section',
      'type',
      'pages',
      ...snippets.flatMap(({ snippet }) => [`${snippet} expected`, `${snippet} present`]),
    ],
    ...rows.map(({ section, type, pages, cells }) => [
      section,
      type,
      pages,
      ...snippets.flatMap(({ snippet }) => [cells[snippet]?.expected ?? 0, cells[snippet]?.present ?? 0]),
    ]),
  ];
  for (const line of lines) print(line.map((cell) => csvCell(String(cell))).join(','));
}

/** In quotes where it must be; what a spreadsheet would take for a formula is text. */
function csvCell(text: string): string {
  const safe = /^[=+\-@]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
