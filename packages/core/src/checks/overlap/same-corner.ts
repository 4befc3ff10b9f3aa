import { isFallback } from '../../order/index.js';
import { memoizeByObject } from '../../memoize/by-object.js';
import type { FloatingBox } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import type { ReadPart } from '../read-part.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';

const box = (id: string): string =>
  `<style>#${id}{position:fixed;right:20px;bottom:20px}</style><div id="${id}">Hello</div>`;

/** Something that floats over the page, and where that is said; by its recipe where there is no place in the code. */
interface Floating {
  readonly part: ReadPart;
  readonly corner: string;
  readonly box?: FloatingBox;
}

const byFloating = tieOfParts((part, set) => (cornerOf(part, set) === undefined ? [] : ['floating']));

export const sameCorner = defineCheck({
  id: 'same-corner',
  area: 'overlap',
  severity: 'warning',
  title: 'Two floating elements in one corner',
  why: 'One covers the other, so visitors see only one, and on a phone often cannot tap either.',
  messages: {
    'same-corner': {
      title: '{second} and {first} both float at the {corner}{where, select, phone { on phones} other {}}',
      advice:
        'Both run on {page}, for example{above, select, other {, and {above} is on top} none {}}. Choose another corner for one of them, or run only one there. This is judged from their styles, so look at the page as well.',
    },
    'at-phone': {
      title: '{second} and {first} overlap on phones',
      advice:
        'One floats at the {corner} and one at the {other}, and a narrow screen has no room for both{above, select, other {; {above} is on top} none {}}. Both run on {page}, for example. Make one smaller on phones, or hide it there.',
    },
  },
  roles: {
    box: 'floats at the {corner}',
  },
  isFixable: false,
  wrong: [
    { name: 'Harbour chat', parts: [{ placement: 'body-end', code: box('chat') }] },
    { name: 'Summer offer', parts: [{ placement: 'body-end', code: box('offer') }] },
  ],
  right: [
    { name: 'Harbour chat', parts: [{ placement: 'body-end', code: box('chat') }], exclude: ['/fares'] },
    { name: 'Summer offer', parts: [{ placement: 'body-end', code: box('offer') }], include: ['/fares'] },
  ],
  ties: [byFloating],
  *run(set) {
    const boxes = floating(set);
    for (const [index, first] of boxes.entries())
      for (const second of boxes.slice(index + 1, index + 1 + MAX_COMPARED)) {
        if (first.part.snippet === second.part.snippet) continue;
        const widths = meetingWidths(first, second);
        if (!widths) continue;
        const page = set.meeting(first.part, second.part);
        if (page === undefined) continue;
        const isPhone = widths.most < PHONE_UP_TO;
        yield {
          about: first.corner,
          message: first.corner === second.corner ? 'same-corner' : 'at-phone',
          params: {
            second: partName(second.part),
            first: partName(first.part),
            corner: first.corner,
            other: second.corner,
            page,
            where: isPhone ? 'phone' : 'any',
            above: aboveOf(first, second) ?? 'none',
          },
          subjects: [subject(first.part), subject(second.part)],
          evidence: [first, second].flatMap(({ part, box }) =>
            box ? [evidence(part, box.range, 'box', { corner: box.corner })] : [],
          ),
        };
      }
  },
});

/** A site with more floating things than these has other worries. */
const MAX_COMPARED = 40;

/** Who lies above, where both say how high they are. */
function aboveOf(first: Floating, second: Floating): string | undefined {
  const [one, other] = [first.box?.zIndex, second.box?.zIndex];
  if (one === undefined || other === undefined || one === other) return undefined;
  return partName(one > other ? first.part : second.part);
}

/** Widths of a window at which a phone is looked at, and the least that is. */
const PHONE_UP_TO = 600;
const PHONE = 390;
const WIDEST = 4_000;
/** Two that stand so far apart, or say how large they are, are stacked and do not meet. */
const STACKED = 72;

/** The window widths at which two boxes lie on each other; undefined where they do at none. */
function meetingWidths(first: Floating, second: Floating): { least: number; most: number } | undefined {
  const least = Math.max(first.box?.minWindow ?? 0, second.box?.minWindow ?? 0);
  const most = Math.min(first.box?.maxWindow ?? WIDEST, second.box?.maxWindow ?? WIDEST);
  if (least > most) return undefined;
  const [vertical, horizontal] = first.corner.split(' ') as ['top' | 'bottom', 'left' | 'right'];
  const [otherVertical, otherHorizontal] = second.corner.split(' ');
  if (vertical !== otherVertical || areApart(first, second, vertical, 'height')) return undefined;
  if (horizontal === otherHorizontal)
    return areApart(first, second, horizontal, 'width') ? undefined : { least, most };
  // In two corners of one edge they meet where the window is too narrow for both.
  const needed = [first, second].map(({ box, corner }) =>
    box?.width === undefined
      ? undefined
      : box.width + (box.edges[corner.split(' ')[1] as 'left' | 'right'] ?? 0),
  );
  if (needed[0] === undefined || needed[1] === undefined) return undefined;
  const narrowest = needed[0] + needed[1];
  const up = Math.min(most, narrowest - 1);
  return narrowest > PHONE && least <= PHONE && up >= PHONE ? { least, most: up } : undefined;
}

/** Whether one ends, seen from an edge, before the other begins. */
function areApart(
  first: Floating,
  second: Floating,
  edge: 'top' | 'right' | 'bottom' | 'left',
  size: 'width' | 'height',
): boolean {
  const [one, other] = [first.box, second.box];
  const [from, to] = [one?.edges[edge], other?.edges[edge]];
  if (!one || !other || from === undefined || to === undefined) return false;
  const [lower, upper] = from <= to ? [one, to - from] : [other, from - to];
  return lower[size] === undefined ? size === 'height' && upper >= STACKED : upper >= lower[size];
}

/** What floats in a corner: one box of each part, as its code declares it, otherwise as its recipe does. */
const floating = memoizeByObject((set: CheckedSet): readonly Floating[] => {
  const reported = new Set<string>();
  return set.near.running.flatMap((part): Floating[] => {
    const own = boxOf(part);
    if (own) return [{ part, corner: own.corner, box: own }];
    const corner = cornerOf(part, set);
    if (corner === undefined || reported.has(part.snippet.key)) return [];
    reported.add(part.snippet.key);
    return [{ part, corner }];
  });
});

/** The corner that a part's own code, or its recipe, puts something in. */
function cornerOf(part: ReadPart, set: CheckedSet): string | undefined {
  const own = boxOf(part);
  if (own) return own.corner;
  const corner = isFallback(part) ? undefined : set.recipeOf(part.snippet)?.floats;
  return corner !== undefined && isCorner(corner) ? corner : undefined;
}

function boxOf({ facts }: ReadPart): FloatingBox | undefined {
  return facts.boxes.find(({ position, corner }) => position === 'fixed' && isCorner(corner));
}

/** What covers an edge or the whole page is meant to; bars at one edge mostly make room for each other. */
function isCorner(corner: string): boolean {
  return /^(?:top|bottom) (?:left|right)$/.test(corner);
}
