import type { ApiClient, VisitRoundResource } from '@pragmatica/contract';
import { CliError, EXIT } from '../errors.js';
import { Progress } from '../output.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';
import { VISITS } from '../texts/visits.js';

/** Watches a round until it is over; Ctrl-C leaves it alone. @throws CliError for one that came to no end */
export async function followRound(
  client: ApiClient,
  site: string,
  number: number,
): Promise<VisitRoundResource> {
  const abort = new AbortController();
  const stop = (): void => abort.abort();
  process.once('SIGINT', stop);
  const progress = new Progress();
  let round: VisitRoundResource | undefined;
  let path = '';
  try {
    for await (const event of client.stream(
      'watchVisits',
      { params: { site, round: number } },
      abort.signal,
    )) {
      if (event.type === 'visit') ({ path } = event.visit);
      else ({ round } = event);
      const { done = 0, planned = 0, state } = round ?? {};
      progress.update(state === 'waiting' ? VISITS.waiting : say(VISITS.progress, { done, planned, path }));
    }
  } finally {
    progress.end();
    process.off('SIGINT', stop);
  }
  if (!round) throw new CliError(PLAN.serviceBrokeOff, EXIT.failed);
  if (round.state === 'cancelled') throw new CliError(VISITS.cancelled, EXIT.failed);
  if (round.state === 'failed')
    throw new CliError(
      round.problem === null ? VISITS.failed : say(VISITS.brokeOff, { problem: round.problem }),
      EXIT.failed,
    );
  return round;
}
