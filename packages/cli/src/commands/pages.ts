import { TRAIT_WORDS } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, note, print, printJson, table } from '../output.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';
import { SURVEY } from '../texts/survey.js';

interface PagesOptions extends SiteOptions {
  readonly except?: string[];
  readonly surveyed?: 'all' | 'problems' | 'missing' | 'redirects';
  readonly section?: string;
  readonly find?: string;
}

export function pages(program: Command): void {
  withSite(program.command('pages [pattern...]'))
    .description(PLAN.siteSKnown)
    .option('--except <pattern...>', PLAN.leaveTheseOut)
    .addOption(
      new Option('--surveyed <which>', SURVEY.surveyedPages).choices([
        'all',
        'problems',
        'missing',
        'redirects',
      ]),
    )
    .option('--section <path>', SURVEY.ofSection)
    .option('--find <words>', SURVEY.find)
    .addHelpText('after', PLAN.examplesPragmaticaPages)
    .action(async (include: string[], options: PagesOptions) => {
      if (options.surveyed) await listSurveyed(options.surveyed, options);
      else await preview(include, options);
    });
}

/** Which of the known pages some patterns hold. */
async function preview(include: string[], options: PagesOptions): Promise<void> {
  const client = clientFor(options);
  const params = { site: await siteFor(client, options) };
  const body = { include, exclude: options.except ?? [] };
  const { data } = await client.call('previewPages', { params, body });
  if (options.json) {
    printJson(data);
    return;
  }
  for (const path of data.matched) print(path);
  note(
    say(PLAN.howManyMatch, {
      matched: colour.bold(`${data.matched.length} of ${data.known}`),
      pages: data.words.replace(/^on /, 'among '),
      source: data.source,
    }),
  );
}

async function listSurveyed(
  only: 'all' | 'problems' | 'missing' | 'redirects',
  options: PagesOptions,
): Promise<void> {
  const client = clientFor(options);
  const site = await siteFor(client, options);
  const query = {
    only,
    q: options.find ?? '',
    limit: 200,
    ...(options.section === undefined ? {} : { section: options.section }),
  };
  const { data } = await client.call('listSurveyPages', { params: { site, survey: 'latest' }, query });
  if (options.json) {
    printJson(data);
    return;
  }
  print(
    table(
      ['PATH', 'STATUS', SURVEY.type, SURVEY.title],
      data.items.map((page) => [
        page.path,
        page.outcome === 'read' ? String(page.status) : (page.outcome ?? page.state),
        page.type ?? '',
        page.missing.length > 0
          ? colour.red(say(SURVEY.pageMissing, { parts: page.missing.join(', ') }))
          : page.leadsTo === null
            ? page.title
            : `→ ${page.leadsTo}`,
      ]),
    ),
  );
  if (data.traits.length > 0) note(colour.dim(`\n${SURVEY.unusual}`));
  for (const { trait, pages: count, example } of data.traits)
    note(colour.dim(say(SURVEY.unusualLine, { name: TRAIT_WORDS[trait].name, count, example })));
  note(say(SURVEY.pageCount, { shown: data.items.length, total: data.total }));
}
