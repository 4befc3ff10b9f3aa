import type { ApiClient, TroubleAnswerResource } from '@pragmatica/contract';
import { whoWords, type Device } from '@pragmatica/core';
import { CliError, EXIT } from '../errors.js';
import { Progress, colour, print, printJson } from '../output.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';
import { VISITS, WHY } from '../texts/visits.js';

export interface PageQuestion {
  readonly path: string;
  readonly host?: string;
  readonly environment?: 'live' | 'staging';
  readonly device: Device;
  readonly broken?: boolean;
  readonly twice?: boolean;
  readonly early?: boolean;
  readonly json?: boolean;
}

/** What is wrong on a page, and which snippet does it. */
export async function askOfPage(client: ApiClient, site: string, question: PageQuestion): Promise<void> {
  const { path, host, environment, device, json } = question;
  const about = (['broken', 'twice', 'early'] as const).filter((one) => question[one] === true);
  const body = {
    ...{ path, device },
    ...(host === undefined ? {} : { host }),
    ...(environment === undefined ? {} : { environment }),
    ...(about.length === 0 ? {} : { about }),
  };
  const abort = new AbortController();
  const stop = (): void => abort.abort();
  process.once('SIGINT', stop);
  const progress = new Progress();
  let found: { readonly answer: TroubleAnswerResource; readonly round: number } | undefined;
  try {
    progress.update(WHY.visiting);
    for await (const event of client.stream('findTrouble', { params: { site }, body }, abort.signal))
      if (event.type === 'answer') found = event;
      else if (event.type === 'visit')
        progress.update(say(WHY.looking, { number: event.visit.number, title: event.visit.title }));
  } finally {
    progress.end();
    process.off('SIGINT', stop);
  }
  if (!found) throw new CliError(PLAN.serviceBrokeOff, EXIT.failed);
  const { answer, round } = found;
  if (json === true) printJson({ ...answer, round });
  else tell(answer, round);
  if (!answer.isWell) process.exitCode = EXIT.found;
}

function tell({ isWell, sentence, troubles }: TroubleAnswerResource, round: number): void {
  if (troubles.length === 0) print(isWell ? colour.green(sentence) : colour.red(sentence));
  for (const [index, { message, advice, who, evidence }] of troubles.entries()) {
    if (index > 0) print('');
    print(`${colour.red('✗')} ${colour.bold(message)}`);
    if (advice !== '') print(`  ${say(VISITS.fix, { advice })}`);
    print(`  ${say(VISITS.who, { who: whoWords(who) })}`);
    for (const line of evidence) print(colour.dim(`  ${line}`));
  }
  print(colour.dim(`\n${say(WHY.lookRound, { round })}`));
}
