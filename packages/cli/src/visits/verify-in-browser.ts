import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { ApiClient, VisitRoundDetail } from '@pragmatica/contract';
import type { Device, ThirdParties } from '@pragmatica/core';
import { EXIT } from '../errors.js';
import { note, print, printJson } from '../output.js';
import { say } from '../texts/say.js';
import { VISITS } from '../texts/visits.js';
import { followRound } from './follow-round.js';
import { reportRound } from './report-round.js';
import { roundPage } from './round-page.js';
import { roundJunit } from './round-junit.js';

export interface BrowserOptions {
  readonly environment: 'live' | 'staging';
  readonly host?: string | undefined;
  readonly all?: boolean;
  readonly device?: Device[];
  readonly thirdParties?: ThirdParties;
  readonly draft?: boolean;
  readonly har?: string;
  readonly report?: string;
  readonly follow: boolean;
  readonly format: 'table' | 'json' | 'junit';
}

/** Sends a browser to pages, waits for it, and says what it found. */
export async function verifyInBrowser(
  client: ApiClient,
  site: string,
  paths: readonly string[],
  options: BrowserOptions,
): Promise<void> {
  const { environment, host, all, device, thirdParties, draft = false, har, follow, format } = options;
  const { data: started } = await client.call('startVisits', {
    params: { site },
    body: {
      environment,
      ...(host === undefined ? {} : { host }),
      pages: paths.length > 0 ? [...paths] : all === true ? 'all' : 'sample',
      ...(device ? { devices: device } : {}),
      draft,
      ...(thirdParties === undefined ? {} : { thirdParties }),
    },
  });
  const { number } = started;
  if (!follow) {
    if (format === 'json') printJson(started);
    else print(say(VISITS.started, { number, host: started.host }));
    return;
  }
  await followRound(client, site, number);
  const { data } = await client.call('showVisitRound', { params: { site, round: number } });
  if (har !== undefined) await writeHars(client, site, data, har);
  if (options.report !== undefined) {
    writeFileSync(options.report, await roundPage(client, site, data));
    note(say(VISITS.wrote, { file: options.report }));
  }
  if (format === 'json') printJson(data);
  else if (format === 'junit') print(roundJunit(data));
  else reportRound(data);
  if (!data.summary.isWell) process.exitCode = EXIT.found;
}

async function writeHars(
  client: ApiClient,
  site: string,
  { round, visits }: VisitRoundDetail,
  folder: string,
): Promise<void> {
  mkdirSync(folder, { recursive: true });
  for (const { number, state } of visits) {
    if (state !== 'done') continue;
    const { data } = await client.call('exportHar', { params: { site, round: round.number, visit: number } });
    const file = path.join(folder, `visit-${round.number}-${number}.har`);
    writeFileSync(file, JSON.stringify(data, null, 1));
    note(say(VISITS.wrote, { file }));
  }
}
