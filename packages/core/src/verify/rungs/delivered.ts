import { isDeliveryFault } from '../summary.js';
import { VISIT_TEXTS as T } from '../../texts/visit.js';
import type { RungCase, RungFound } from './types.js';

/** In the page, once, in its place, unchanged: as the judges of the host's way of delivery say. */
export function judgeDelivered({ deliveries }: RungCase): RungFound {
  const wrong =
    deliveries.find(({ state }) => isDeliveryFault(state)) ??
    deliveries.find(({ state }) => state === 'left-out');
  if (!wrong) return { state: 'reached', message: T.delivered };
  return {
    state: 'failed',
    isOwn: true,
    cause: {
      id: wrong.state === 'left-out' ? 'no-place' : wrong.state,
      message: wrong.message,
      advice: '',
      who: wrong.state === 'twice' ? 'site' : 'you',
      evidence: [wrong.part],
    },
  };
}
