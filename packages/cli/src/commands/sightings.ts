import type { SightingResource, SurveyResource } from '@pragmatica/contract';
import { alterations, fileWords, type Alteration } from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { clientFor, siteFor, withSite, type SiteOptions } from '../context.js';
import { colour, note, print, printJson, table, when } from '../output.js';
import { say } from '../texts/say.js';
import { SURVEY } from '../texts/survey.js';

type Standing = SightingResource['standing'];
const STANDINGS: readonly Standing[] = ['ours', 'copy', 'altered', 'foreign'];

const MARKS: Record<Standing, string> = {
  ours: colour.green('ours'),
  copy: colour.red('copy'),
  altered: colour.red('altered'),
  foreign: colour.yellow('foreign'),
};

type ListOptions = SiteOptions & {
  readonly [name in Standing]?: boolean;
} & { readonly find?: string; readonly ignored?: boolean; readonly all?: boolean; readonly survey?: string };

export function sightings(program: Command): void {
  const command = withSite(program.command('sightings [id]')).description(SURVEY.sightingsOf);
  for (const standing of STANDINGS)
    command.addOption(
      new Option(`--${standing}`, say(SURVEY.only, { standing })).conflicts(
        STANDINGS.filter((other) => other !== standing),
      ),
    );
  command
    .option('--find <words>', SURVEY.find)
    .option('--ignored', SURVEY.showIgnored)
    .option('--all', SURVEY.showAll)
    .option('--survey <number>', SURVEY.ofSurvey)
    .addHelpText('after', SURVEY.sightingsExamples)
    .action(async (id: string | undefined, options: ListOptions) => {
      if (id === undefined) await list(options);
      else await show(Number(id), options);
    });
}

async function list(options: ListOptions): Promise<void> {
  const client = clientFor(options);
  const site = await siteFor(client, options);
  const standing = STANDINGS.find((one) => options[one] === true);
  const query = {
    ...(standing === undefined ? {} : { standing }),
    q: options.find ?? '',
    ignored: options.ignored ? ('show' as const) : ('hide' as const),
    own: options.all ? ('show' as const) : ('hide' as const),
    limit: 200,
  };
  const survey = options.survey === undefined ? ('latest' as const) : Number(options.survey);
  const { data } = await client.call('listSightings', { params: { site, survey }, query });
  if (options.json) {
    printJson(data);
    return;
  }
  if (data.items.length === 0) print(SURVEY.nothingSeen);
  else
    print(
      table(
        ['ID', SURVEY.standing, SURVEY.pages, 'NAME', SURVEY.whatItIs],
        data.items.map((one) => [
          String(one.id),
          MARKS[one.standing],
          String(one.pages),
          colour.bold(one.name),
          one.words,
        ]),
      ),
    );
  note(colour.dim(`\n${countsLine(data.counts, data.survey)}`));
}

function countsLine(
  counts: Record<Standing, number>,
  { number, host, endedAt, createdAt }: SurveyResource,
): string {
  return say(SURVEY.countsLine, { ...counts, number, host, date: when(endedAt ?? createdAt) });
}

async function show(id: number, options: SiteOptions): Promise<void> {
  const client = clientFor(options);
  const site = await siteFor(client, options);
  const { data } = await client.call('showSighting', { params: { site, sighting: id } });
  if (options.json) {
    printJson(data);
    return;
  }
  print(`${colour.bold(data.name)}  ${MARKS[data.standing]}`);
  print(data.words);
  print(
    say(SURVEY.standsAt, {
      places: data.places.join(', '),
      count: data.pages,
      examples: data.examples.join(', '),
    }),
  );
  if (data.accounts.length > 0) print(say(SURVEY.reportsTo, { accounts: data.accounts.join(', ') }));
  if (data.loads.length > 0) print(say(SURVEY.loadsThese, { loads: data.loads.join(', ') }));
  for (const file of data.files)
    print(say(SURVEY.fileLine, { address: file.address, words: fileWords(file) }));
  if (data.ignored) print(say(SURVEY.ignoredBy, data.ignored));
  if (data.adopted) print(say(SURVEY.adoptedAs, data.adopted));
  if (data.standing !== 'ours') print(data.removal);
  if (data.ourCode !== null)
    print(`${colour.dim(SURVEY.changedOnWay)}\n${alterations(data.ourCode, data.code).map(marked).join('')}`);
  print(`${colour.dim(SURVEY.theirCode)}\n${data.code}`);
  if (data.match !== null || data.adopted) return;
  const { name, placement, words: pages } = data.proposal;
  note(colour.dim(say(SURVEY.adoptLine, { id, name, placement, pages })));
  if (data.companions.length > 0)
    note(
      colour.dim(
        say(SURVEY.companions, {
          list: data.companions.map((one) => `${one.id} (${one.name})`).join(', '),
          ids: data.companions.map((one) => one.id).join(','),
        }),
      ),
    );
}

/** Readable without colours, too. */
function marked({ kind, text }: Alteration): string {
  if (kind === 'same') return text;
  return kind === 'gone' ? colour.red(`[-${text}-]`) : colour.green(`{+${text}+}`);
}
