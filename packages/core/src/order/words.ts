import { placementKey, placementWords } from '../insert/index.js';
import { partName } from '../snapshot/index.js';
import type { Dependency } from './dependencies.js';
import type { Move } from './moves.js';
import { ORDER_TEXTS } from '../texts/order.js';
import { say } from '../texts/say.js';

/** Why one part needs another, as a clause: `“Fares event” uses “tally”, which “Counter” makes`. */
export function dependencyWords({ first, then, reason }: Dependency): string {
  const [former, latter] = [partName(first), partName(then)];
  switch (reason.kind) {
    case 'name':
      return say(
        reason.definition.confidence === 'guess' ? ORDER_TEXTS.latterUsesCalled : ORDER_TEXTS.latterUsesName,
        { latter, name: reason.name, former },
      );
    case 'element':
      return say(ORDER_TEXTS.latterLooksId, { latter, id: reason.id, former });
    case 'settings':
      return say(ORDER_TEXTS.scriptLatterReads, { latter, name: reason.name, former });
    case 'stated':
      return say(ORDER_TEXTS.latterSaidNeed, { latter, former });
    case 'recipe':
      return say(ORDER_TEXTS.recipeLatterWants, { latter, former });
  }
}

/** What a move does, without its end: `Move “Fares event” behind “Counter”`. */
export function moveTitle({ part, placement, next }: Move): string {
  const names = { part: partName(part), side: next.side, next: partName(next.part) };
  if (placementKey(placement) === placementKey(part.part.placement)) return say(ORDER_TEXTS.move, names);
  return say(ORDER_TEXTS.moveTo, { ...names, to: placementWords(placement).replace(/^at /, 'to ') });
}

/** What a move does and why, in one sentence. */
export function moveWords(move: Move): string {
  return `${moveTitle(move)}: ${dependencyWords(move.because)}.`;
}
