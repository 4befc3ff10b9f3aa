import type { TroubleAnswerResource, TroubleEvent, TroubleInput } from '@pragmatica/contract';
import type { Acting } from '../site/use-case.js';
import { startVisits } from '../site/visits/start-visits.js';
import { endRound, roundById, type TroubleAnswer, type TroubleQuestion } from '../storage/visit-rounds.js';
import { VISITS_TEXTS } from '../texts/visits.js';
import type { JobQueue } from './queue.js';
import { watchVisits } from './watch-visits.js';

export interface TroubleTools extends Acting {
  readonly queue: Pick<JobQueue, 'send'>;
  readonly locale: string;
}

/** The question, with what was left out filled in. */
export type TroubleRequest = Pick<TroubleInput, 'host' | 'environment'> & {
  readonly site: string;
} & TroubleQuestion;

/**
 * What is wrong on a page, and which snippet does it. Tells of each visit, then the answer. Ends with whoever asks.
 *
 * @throws ServiceError 404, 409
 */
export async function* trouble(input: TroubleRequest, tools: TroubleTools): AsyncGenerator<TroubleEvent> {
  const { store: root, actor, queue, locale } = tools;
  const { site, host, environment = 'live', path, device, about } = input;
  const round = await startVisits(
    site,
    { environment, host, pages: [path], draft: false },
    { store: root.fork(), actor },
    { trouble: { path, device, about } },
  );
  await queue.send('visits', { round: round.id });
  yield { type: 'visiting', round: round.number };
  let isOver = false;
  let problem: string = VISITS_TEXTS.roundBrokenOff;
  try {
    for await (const event of watchVisits({ site, round: round.number, locale }, root))
      if (event.type === 'visit') yield event;
      else problem = event.round.problem ?? problem;
    isOver = true;
    const ended = await roundById(root.fork(), round.id);
    const answer = ended?.answer ?? { isWell: false, sentence: problem, troubles: [] };
    yield { type: 'answer', answer: toAnswer(answer), round: round.number };
  } finally {
    if (!isOver) await endRound(root.fork(), round.id, 'cancelled');
  }
}

function toAnswer({ isWell, sentence, troubles }: TroubleAnswer): TroubleAnswerResource {
  return {
    isWell,
    sentence,
    troubles: troubles.map(({ culprits, evidence, ...one }) => ({
      ...one,
      culprits: [...culprits],
      evidence: [...evidence],
    })),
  };
}
