import { placementKey, placementWords } from '../insert/index.js';
import { partName } from '../snapshot/index.js';
import type { Dependency } from './dependencies.js';
import type { Move } from './moves.js';

/** Why one part needs another, as a clause: `“Fares event” uses “tally”, which “Counter” makes`. */
export function dependencyWords({ first, then, reason }: Dependency): string {
  const [former, latter] = [partName(first), partName(then)];
  switch (reason.kind) {
    case 'name':
      return `${latter} uses “${reason.name}”, which ${former} makes`;
    case 'element':
      return `${latter} looks for #${reason.id}, which ${former} brings`;
    case 'settings':
      return `the script of ${latter} reads “${reason.name}”, which ${former} sets`;
    case 'stated':
      return `${latter} is said to need ${former}`;
    case 'recipe':
      return `the recipe of ${latter} wants ${former} before it`;
  }
}

/** What a move does, without its end: `Move “Fares event” behind “Counter”`. */
export function moveTitle({ part, placement, next }: Move): string {
  const side = next.side === 'before' ? 'in front of' : 'behind';
  const isElsewhere = placementKey(placement) !== placementKey(part.part.placement);
  const where = isElsewhere ? ` ${placementWords(placement)},` : '';
  return `Move ${partName(part)}${where} ${side} ${partName(next.part)}`;
}

/** What a move does and why, in one sentence. */
export function moveWords(move: Move): string {
  return `${moveTitle(move)}: ${dependencyWords(move.because)}.`;
}
