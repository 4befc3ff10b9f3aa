import { memoizeByText } from '../memoize/by-text.js';
import { hostOf, readCode, type Facts } from '../facts/index.js';
import { renamedFields } from './field-names.js';
import type { Recipe, RecipePart } from './types.js';

/** What a piece is known by, whatever else somebody has changed in it. */
interface Signature {
  /** Host and path of what it loads; a field in it may be anything. */
  readonly loads: readonly { readonly place: RegExp; readonly noScript: boolean }[];
  /** Names, settings and elements that it makes; a field in an id may be anything. */
  readonly makes: readonly RegExp[];
}

const FIELD = /@\{[a-z][a-z0-9_-]*\}/;

const signatureOf = memoizeByText(4_000, (code): Signature => {
  const facts = readCode(code);
  return {
    loads: facts.loads.flatMap(({ address, noScript }) => {
      const place = placeOf(address);
      if (place === undefined) return [];
      return [{ place: patternOf(place), noScript }];
    }),
    makes: madeBy(facts).map(patternOf),
  };
});

/** A text in which a field may be anything. */
function patternOf(text: string): RegExp {
  const fixed = text.split(FIELD).map((piece) => piece.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
  return new RegExp(`^${fixed.join('[^?#]*')}$`);
}

/** Host and path, without what differs from page to page. */
function placeOf(address: string): string | undefined {
  const host = hostOf(address);
  if (host === undefined) return undefined;
  const path = /^[^/]*\/\/[^/?#]+([^?#]*)/.exec(address)?.[1] ?? '';
  return `${host}${path}`;
}

function madeBy({ defines, settings, makes }: Facts): string[] {
  return [
    ...defines.map(({ name }) => `name ${name}`),
    ...settings.map(({ name }) => `name ${name}`),
    ...makes.map(({ id }) => `element ${id}`),
  ];
}

/**
 * Whether code is a piece of a recipe, perhaps changed by hand: it loads what the piece loads, to the same end; a piece
 * that loads nothing is known by what it makes.
 */
export function isPiece({ code }: Pick<RecipePart, 'code'>, facts: Facts): boolean {
  const { loads, makes } = signatureOf(code);
  if (loads.length > 0)
    return facts.loads.some(({ address, noScript }) => {
      const place = placeOf(address);
      return (
        place !== undefined && loads.some((load) => load.noScript === noScript && load.place.test(place))
      );
    });
  const made = madeBy(facts);
  return makes.some((pattern) => made.some((name) => pattern.test(name)));
}

/**
 * Which of a snippet's parts is which piece of its recipe.
 *
 * @param names - what the recipe's fields are called at the site
 * @returns for each piece the index of the part; undefined where there is none
 */
export function matchPieces(
  recipe: Recipe,
  parts: readonly { readonly code: string }[],
  names: Readonly<Record<string, string>>,
): (number | undefined)[] {
  const free = new Set(parts.map((_, index) => index));
  const found = new Map<RecipePart, number>();
  const take = (fits: (piece: RecipePart, code: string) => boolean): void => {
    for (const piece of recipe.parts) {
      if (found.has(piece)) continue;
      const index = [...free].find((candidate) => fits(piece, parts[candidate]!.code));
      if (index === undefined) continue;
      found.set(piece, index);
      free.delete(index);
    }
  };
  take((piece, code) => renamedFields(piece.code, names) === code);
  take((piece, code) => isPiece(piece, readCode(code)));
  return recipe.parts.map((piece) => found.get(piece));
}
