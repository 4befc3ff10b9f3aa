import type { PagePictureEvent, PagePictureInput } from '@pragmatica/contract';
import type { Device } from '@pragmatica/core';
import { startVisits } from '../site/visits/start-visits.js';
import type { Acting } from '../site/use-case.js';
import type { Store } from '../storage/store.js';
import { endRound, type PictureQuestion, type VisitRound } from '../storage/visit-rounds.js';
import type { Visit } from '../storage/visits.js';
import { VISITS_TEXTS } from '../texts/visits.js';
import { awaitVisit, seenBy } from './await-visit.js';
import type { JobQueue } from './queue.js';

export interface PictureTools extends Acting {
  readonly queue: Pick<JobQueue, 'send'>;
}

/** What is to be seen, with what was left out filled in. */
export type PictureRequest = Pick<PagePictureInput, 'host' | 'environment'> & {
  readonly site: string;
  readonly path: string;
  readonly device: Device;
} & PictureQuestion;

/**
 * A picture of a page without the snippets, with the boxes of its elements, so that somebody can point at one; or with a part in
 * it, and the boxes of what that shows. Ends with whoever asks; the visit is then called off.
 *
 * @throws ServiceError 404
 */
export async function* pagePicture(
  { site, path, device, host, environment = 'live', part }: PictureRequest,
  { store: root, actor, queue }: PictureTools,
): AsyncGenerator<PagePictureEvent> {
  const visit = {
    path,
    title: VISITS_TEXTS.pictureTitle,
    because: part ? VISITS_TEXTS.pictureOfPart : VISITS_TEXTS.pictureOfPage,
    script: { device, steps: [{ do: 'open', path }] },
  };
  const round = await startVisits(
    site,
    { environment, host, pages: [path], draft: false },
    { store: root.fork(), actor },
    { given: [visit], picture: { part } },
  );
  await queue.send('visits', { round: round.id });
  yield { type: 'visiting', round: round.number };
  let isOver = false;
  try {
    const { visit: made, ended } = await awaitVisit(root, round);
    isOver = true;
    yield await resultOf(root.fork(), made, ended);
  } finally {
    if (!isOver) await endRound(root.fork(), round.id, 'cancelled');
  }
}

async function resultOf(store: Store, made: Visit | undefined, ended: VisitRound): Promise<PagePictureEvent> {
  const seen = await seenBy(store, made, ended);
  if ('failure' in seen) return { type: 'failed', message: seen.failure };
  const { visit, load } = seen;
  if (load.screenshot === undefined) return { type: 'failed', message: VISITS_TEXTS.hung };
  return {
    type: 'picture',
    round: ended.number,
    visit: visit.number,
    screenshot: load.screenshot,
    width: Math.max(load.size.width, load.window.width),
    elements: (load.boxes ?? []).map(({ number: element, box }) => ({ element, box })),
  };
}
