import type { ExecutionPhase } from '../facts/index.js';
import { anchorName, isAnchor, type Placement } from '../insert/index.js';

/** Whether one thing happens before another: at every page load, at some, or at none. */
export type Precedence = 'always' | 'maybe' | 'never';

/** Something that happens in a page load. */
export interface Happening {
  readonly when: ExecutionPhase;
  /** Position of the part that does it among all parts in page order. */
  readonly position: number;
  readonly placement: Placement;
}

type Rule = (standsBefore: Precedence) => Precedence;

const BY_PLACE: Rule = (standsBefore) => standsBefore;
const ALWAYS: Rule = () => 'always';
const NEVER: Rule = () => 'never';
const MAYBE: Rule = () => 'maybe';
/** What waits for the network, seen from code that stands before it: it has not been asked for yet. */
const ALWAYS_IF_BEFORE: Rule = (standsBefore) => (standsBefore === 'always' ? 'always' : 'maybe');
/** The same, seen from the other side: what is asked for only further down cannot have come yet. */
const NEVER_IF_BEHIND: Rule = (standsBefore) => (standsBefore === 'never' ? 'never' : 'maybe');

/**
 * Whether what the row names happens before what the column names (HTML Standard, 4.12.1.1, "prepare the script
 * element" and "execute the script element"): code at its place runs while the page is read, in document order;
 * deferred scripts and modules after that, in document order; async ones whenever they have come; what waits for an
 * event, a timer or a promise is taken to come after all that is at its place or deferred.
 */
const RULES: Readonly<Record<ExecutionPhase, Readonly<Record<ExecutionPhase, Rule>>>> = {
  parse: { parse: BY_PLACE, deferred: ALWAYS, async: ALWAYS_IF_BEFORE, later: ALWAYS },
  deferred: { parse: NEVER, deferred: BY_PLACE, async: MAYBE, later: ALWAYS },
  async: { parse: NEVER_IF_BEHIND, deferred: MAYBE, async: MAYBE, later: MAYBE },
  // An onload or a timer may well come while the page is still being read.
  later: { parse: NEVER_IF_BEHIND, deferred: MAYBE, async: MAYBE, later: MAYBE },
};

/** Whether `a` happens before `b`. */
export function happensBefore(a: Happening, b: Happening): Precedence {
  return RULES[a.when][b.when](standsBefore(a, b));
}

/** Whether the order of the parts decides which of the two happens first. */
export function isDecidedByOrder(a: ExecutionPhase, b: ExecutionPhase): boolean {
  return RULES[a][b]('always') === 'always' && RULES[a][b]('never') !== 'always';
}

/** Which of two elements a page holds first is the page's own affair; at one element the sides tell. */
function standsBefore(a: Happening, b: Happening): Precedence {
  const isUnknown =
    isAnchor(a.placement) && isAnchor(b.placement) && anchorName(a.placement) !== anchorName(b.placement);
  if (isUnknown) return 'maybe';
  return a.position <= b.position ? 'always' : 'never';
}
