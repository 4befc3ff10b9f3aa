import type { ApiClient, SiteResource, SurveyResource } from '@pragmatica/contract';
import { FIRST_LOOK_PAGES } from '@pragmatica/core';
import { CliError } from '../errors.js';
import { Progress, note, printJson, printProse } from '../output.js';
import { ADD_SITE } from '../texts/add-site.js';
import { say } from '../texts/say.js';
import { chooseWay, chosenJson, takeWay, tellWay, type AnswerOptions } from './site-way.js';

export interface AddByAddressOptions extends AnswerOptions {
  readonly json?: boolean;
  readonly key?: string;
  readonly name?: string;
  readonly timeZone?: string;
}

/** Adds a site of which only the address is known: looks at it, says what it saw, and finds the way that suits it. */
export async function addByAddress(
  client: ApiClient,
  typed: string,
  options: AddByAddressOptions,
): Promise<void> {
  if (!options.json) note(say(ADD_SITE.looking, { address: typed }));
  const { data: look } = await client.call('lookAtAddress', { body: { address: typed } });
  const { data: site } = await client.call('createSite', {
    body: {
      key: options.key,
      name: options.name ?? look.name,
      timeZone: options.timeZone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
      hosts: [{ host: look.host, environment: 'live', delivery: 'line', address: look.address }],
    },
  });
  if (!options.json) {
    if (look.isRedirected) printProse(say(ADD_SITE.redirected, { typed, address: look.address }));
    printProse(say(ADD_SITE.found, { name: site.name, address: look.address }));
  }
  const lines = await readPages(client, site);
  if (!options.json) {
    for (const line of lines) printProse(`  · ${line}`);
    printProse(`${say(ADD_SITE.added, { key: site.key })}\n`);
  }
  const chosen = await chooseWay(options, !options.json);
  const saved = chosen.way ? await takeWay(client, site, chosen.way) : site;
  if (options.json) printJson({ site: saved, lines, ...chosenJson(chosen) });
  else await tellWay(client, saved, chosen);
}

/** A small survey; what it saw, or why it saw nothing. */
async function readPages(client: ApiClient, { key }: SiteResource): Promise<readonly string[]> {
  const params = { site: key };
  const { data } = await client.call('startSurvey', {
    params,
    body: { limit: FIRST_LOOK_PAGES, side: 'public' },
  });
  const last = await watched(client, key, data);
  if (last.state !== 'done') return [say(ADD_SITE.notRead, { problem: last.problem ?? last.state })];
  const look = await client.call('showFirstLook', { params: { site: key, survey: last.number } });
  return look.data.lines;
}

async function watched(client: ApiClient, site: string, survey: SurveyResource): Promise<SurveyResource> {
  const progress = new Progress();
  const abort = new AbortController();
  const stop = (): void => abort.abort();
  process.once('SIGINT', stop);
  let last = survey;
  try {
    const params = { site, survey: survey.number };
    for await (const event of client.stream('watchSurvey', { params }, abort.signal)) {
      last = event.survey;
      progress.update(say(ADD_SITE.reading, { visited: last.visited, found: last.found }));
    }
  } catch (error) {
    if (!abort.signal.aborted) throw error;
    throw new CliError(say(ADD_SITE.added, { key: site }));
  } finally {
    progress.end();
    process.off('SIGINT', stop);
  }
  return last;
}
