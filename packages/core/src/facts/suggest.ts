import type { NamedPlacement } from '../insert/index.js';
import { readCode } from './read-code.js';
import { placementOfStatement } from './statement.js';
import type { Facts, ShapeKind } from './types.js';
import { SUGGEST_TEXTS } from '../texts/suggest.js';

export interface SuggestedPart {
  readonly code: string;
  readonly placement: NamedPlacement;
  /** Why there, in one sentence. */
  readonly because: string;
  /** What of the provider's words is about this part; empty where nothing is. */
  readonly statement: string;
}

/** Where things of a kind work best, and why. */
const BY_SHAPE: Partial<
  Readonly<{ [kind in ShapeKind]: readonly [NamedPlacement, keyof typeof SUGGEST_TEXTS] }>
> = {
  consent: ['head-start', 'whatAsksConsent'],
  container: ['head-start', 'containerShouldThere'],
  analytics: ['head-end', 'headAlsoCounts'],
  pixel: ['head-end', 'headAlsoReports'],
  metadata: ['head-end', 'searchEnginesLook'],
  style: ['head-end', 'stylesHeadThere'],
};

/**
 * The parts that a pasted text is best kept in, each with its placement: what the provider says of it first, then what
 * the code needs, then what it is.
 *
 * @param statement - the provider's sentence about the place, if there is one
 */
export function suggestParts(code: string, statement = ''): SuggestedPart[] {
  const pieces = twoPieces(code);
  if (pieces) {
    return [
      suggestPart(pieces[0], sentenceAbout('head', statement)),
      {
        code: pieces[1],
        statement: sentenceAbout('body', statement),
        placement: 'body-start',
        because: SUGGEST_TEXTS.pieceBrowsersWithout,
      },
    ];
  }
  return code.trim() === '' ? [] : [suggestPart(code.trim(), statement.trim())];
}

function suggestPart(code: string, statement: string): SuggestedPart {
  const [placement, because] = suggestPlacement(readCode(code), placementOfStatement(statement));
  return { code, placement, because, statement };
}

/** The sentence that says where in the head, or in the body, something goes; empty where there is none. */
function sentenceAbout(where: 'head' | 'body', statement: string): string {
  const sentences = statement.split(
    /(?<=[.!?;])\s|\n|,?\s(?:and|then)\s(?=put|paste|place|insert|add|this|the)/i,
  );
  return (sentences.find((sentence) => placementOfStatement(sentence)?.startsWith(where)) ?? '').trim();
}

function suggestPlacement(facts: Facts, said: NamedPlacement | undefined): readonly [NamedPlacement, string] {
  const isVisible = facts.pieces.some(
    ({ kind, name }) => kind === 'frame' || (kind === 'content' && name !== 'base'),
  );
  if (said && !(isVisible && said.startsWith('head'))) return [said, SUGGEST_TEXTS.providerSaysSo];
  const isFallback = facts.loads.length > 0 && facts.loads.every(({ noScript }) => noScript);
  if (isFallback) return ['body-start', SUGGEST_TEXTS.browsersWithoutScripts];
  if (isVisible) return ['body-end', SUGGEST_TEXTS.showsSomethingSo];
  if (facts.needs.some(({ when, isGuarded, own }) => when === 'parse' && !isGuarded && own === undefined))
    return ['body-end', SUGGEST_TEXTS.looksElementPage];
  const [placement, because] = BY_SHAPE[facts.shape.kind] ?? (['body-end', 'nothingHasCome'] as const);
  return [placement, SUGGEST_TEXTS[because]];
}

/** A script for the head and a frame for browsers without scripts, pasted together: one install in two pieces. */
function twoPieces(code: string): [string, string] | undefined {
  const { pieces, loads } = readCode(code);
  const solid = pieces.filter(({ kind }) => kind !== 'comment');
  const last = solid.at(-1);
  if (solid.length < 2 || last?.kind !== 'noscript') return undefined;
  const hasFrame = loads.some(
    ({ kind, noScript, range }) => kind === 'frame' && noScript && range.start >= last.range.start,
  );
  if (!hasFrame || solid.slice(0, -1).some(({ kind }) => kind !== 'script')) return undefined;
  return [code.slice(0, last.range.start).trim(), code.slice(last.range.start).trim()];
}
