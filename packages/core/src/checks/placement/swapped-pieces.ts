import { placementOfStatement } from '../../facts/index.js';
import { isInHead, placementKey, placementWords } from '../../insert/index.js';
import { isFallback } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { subject } from '../evidence.js';
import { partsBySnippet } from '../parts-by-snippet.js';
import type { ReadPart } from '../read-part.js';

const LOADER = '<script async src="https://crateline.example/crate.js?id=CR-20-3"></script>';
const WITHOUT_SCRIPTS =
  '<noscript><iframe src="https://crateline.example/no-script.html?id=CR-20-3"></iframe></noscript>';

export const swappedPieces = defineCheck({
  id: 'swapped-pieces',
  area: 'placement',
  severity: 'error',
  title: 'Two pieces are swapped',
  why: 'Each piece of an install works only in its own place. The one for browsers without scripts ends the head early, and the other starts too late.',
  messages: {
    swapped: {
      title: 'The two pieces of “{snippet}” are swapped',
      advice: '{first} belongs {firstPlace}, and {second} {secondPlace}. Swap them.',
      fix: 'Swap the two pieces.',
    },
  },
  explains: ['contained', 'provider-said', 'second-piece', 'not-first'],
  isFixable: true,
  wrong: [
    {
      name: 'Container',
      parts: [
        { placement: 'head-start', code: WITHOUT_SCRIPTS },
        { placement: 'body-start', code: LOADER },
      ],
    },
  ],
  right: [
    {
      name: 'Container',
      parts: [
        { placement: 'head-start', code: LOADER },
        { placement: 'body-start', code: WITHOUT_SCRIPTS },
      ],
    },
  ],
  *run(set) {
    for (const [snippet, parts] of partsBySnippet(set)) {
      const pair = swapped(parts);
      if (!pair) continue;
      const [first, second] = pair;
      yield {
        about: 'swapped',
        message: 'swapped',
        params: {
          snippet: snippet.name,
          first: partName(first),
          firstPlace: placementWords(second.part.placement),
          second: partName(second),
          secondPlace: placementWords(first.part.placement),
        },
        subjects: [subject(first), subject(second)],
        evidence: [],
        fix: [
          { kind: 'move-part', part: first.key, placement: second.part.placement },
          { kind: 'move-part', part: second.key, placement: first.part.placement },
        ],
      };
    }
  },
});

/** Two parts of which each stands where the other belongs: as their provider says, or as what they are tells. */
function swapped(parts: readonly ReadPart[]): [ReadPart, ReadPart] | undefined {
  for (const [index, first] of parts.entries())
    for (const second of parts.slice(index + 1)) {
      const [one, other] = [placementKey(first.part.placement), placementKey(second.part.placement)];
      if (one === other) continue;
      if (saidPlace(first) === other && saidPlace(second) === one) return [first, second];
      // The frame for browsers without scripts in the head, its script at the start of the body.
      const isFrameAbove = isFrame(first) && isInHead(first.part.placement) && other === 'body-start';
      if (isFrameAbove && isScript(second) && saidPlace(first) === undefined) return [first, second];
    }
  return undefined;
}

function saidPlace({ part: { statement } }: ReadPart): string | undefined {
  return statement === undefined ? undefined : placementOfStatement(statement);
}

function isFrame(part: ReadPart): boolean {
  return isFallback(part) && part.facts.loads.some(({ kind }) => kind === 'frame');
}

function isScript({ facts }: ReadPart): boolean {
  return facts.pieces.length > 0 && facts.pieces.every(({ kind }) => kind === 'script' || kind === 'comment');
}
