import { isFallback } from '../../order/index.js';
import type { Range } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import type { ReadPart } from '../read-part.js';
import { defineCheck } from '../check.js';

const box = (id: string): string =>
  `<style>#${id}{position:fixed;right:20px;bottom:20px}</style><div id="${id}">Hello</div>`;

/** Something that floats over the page, and where that is said; by its recipe where there is no place in the code. */
interface Floating {
  readonly part: ReadPart;
  readonly corner: string;
  readonly range?: Range;
}

export const sameCorner = defineCheck({
  id: 'same-corner',
  area: 'overlap',
  severity: 'warning',
  title: 'Two floating things in one corner',
  why: 'One lies on the other, so visitors see only one of them, and on a phone often cannot press either.',
  messages: {
    'same-corner': {
      title: '{second} and {first} both float at the {corner}',
      advice:
        'Both run on {page}, for example. Choose another corner for one of them, or let only one run there; it is read from what they declare, so look at the page, too.',
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
  *run(set) {
    for (const [first, ...others] of groups(floating(set), ({ corner }) => corner))
      for (const second of others) {
        if (first!.part.snippet === second.part.snippet) continue;
        const page = set.meeting(first!.part, second.part);
        if (page === undefined) continue;
        yield {
          about: first!.corner,
          message: 'same-corner',
          params: {
            second: partName(second.part),
            first: partName(first!.part),
            corner: first!.corner,
            page,
          },
          subjects: [subject(first!.part), subject(second.part)],
          evidence: [first!, second].flatMap(({ part, range }) =>
            range ? [evidence(part, range, 'box')] : [],
          ),
        };
      }
  },
});

/** What floats in a corner: one box of each part, as its code declares it, otherwise as its recipe does. */
function floating(set: CheckedSet): Floating[] {
  const reported = new Set<string>();
  return set.running.flatMap((part): Floating[] => {
    const own = part.facts.boxes.find(({ position, corner }) => position === 'fixed' && isCorner(corner));
    if (own) return [{ part, corner: own.corner, range: own.range }];
    const corner = isFallback(part) ? undefined : set.recipeOf(part.snippet)?.floats;
    if (corner === undefined || !isCorner(corner) || reported.has(part.snippet.key)) return [];
    reported.add(part.snippet.key);
    return [{ part, corner }];
  });
}

/** What covers an edge or the whole page is meant to; bars at one edge mostly make room for each other. */
function isCorner(corner: string): boolean {
  return /^(?:top|bottom) (?:left|right)$/.test(corner);
}
