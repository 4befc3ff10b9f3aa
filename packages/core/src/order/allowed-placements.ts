import type { PieceKind } from '../facts/index.js';
import { NAMED_PLACEMENTS, isAnchor, isInHead, placementKey, type NamedPlacement } from '../insert/index.js';
import type { OrderPart } from './dependencies.js';

const HEAD = NAMED_PLACEMENTS.filter(isInHead);
const BODY = NAMED_PLACEMENTS.filter((placement) => !isInHead(placement));

const BODY_PIECES: ReadonlySet<PieceKind> = new Set(['noscript', 'frame', 'content', 'text']);
const HEAD_PIECES: ReadonlySet<PieceKind> = new Set(['meta', 'link']);

/** The placements in which a part could stand as well; only its own, where moving it might change what it does. */
export function allowedPlacements({ part, facts }: OrderPart): readonly NamedPlacement[] {
  const { placement } = part;
  if (isAnchor(placement)) return [];
  if (facts.writes.some(({ when }) => when === 'parse')) return [placement];
  const own = HEAD.includes(placement) ? HEAD : BODY;
  const has = (kinds: ReadonlySet<PieceKind>): boolean => facts.pieces.some(({ kind }) => kinds.has(kind));
  if (has(BODY_PIECES)) return own === HEAD ? [placement] : BODY;
  if (has(HEAD_PIECES)) return own === HEAD ? HEAD : [placement];
  const needsPage = facts.needs.some(({ when, isGuarded, own: at }) => {
    return when === 'parse' && !isGuarded && at === undefined;
  });
  if (needsPage) return placementKey(placement) === 'body-end' ? ['body-end'] : [placement, 'body-end'];
  return NAMED_PLACEMENTS;
}
