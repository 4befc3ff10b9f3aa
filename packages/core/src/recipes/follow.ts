import { filledCode, fieldValueProblem, type Field } from '../fields/index.js';
import { ENVIRONMENT_NAMES } from '../reach/index.js';
import type { SnapshotPart, SnapshotSnippet } from '../snapshot/index.js';
import { addFields, toPart } from './apply.js';
import type { SiteNames } from './site-names.js';
import { matchPieces } from './pieces.js';
import type { Recipe, RecipeField, RecipePart } from './types.js';
import { RECIPES_TEXTS } from '../texts/recipes.js';
import { say } from '../texts/say.js';

/** A snippet that was pasted by hand, as an install of a recipe. */
export interface Followed {
  readonly parts: readonly SnapshotPart[];
  /** What the recipe's fields are called at the site. */
  readonly names: Readonly<Record<string, string>>;
  /** All fields of the site as they are then. */
  readonly fields: readonly Field[];
}

/** Why a snippet cannot follow a recipe as it is, in words. */
export interface NotFollowed {
  readonly problem: string;
}

/** A value that stands in the code in a field's place. */
interface Found {
  readonly name: string;
  readonly value: string;
  readonly start: number;
  readonly end: number;
}

/**
 * Lets a snippet follow a recipe: where its code says what a piece says, with values in place of the fields, they become
 * fields. What visitors get stays the same, sign by sign.
 */
export function followRecipe(
  recipe: Recipe,
  snippet: SnapshotSnippet,
  at: SiteNames,
): Followed | NotFollowed {
  const indices = matchPieces(recipe, snippet.parts, {});
  const values = new Map<string, string>();
  /** Where a field of the site stands already. */
  const known: Record<string, string> = {};
  const places = new Map<number, Found[]>();
  for (const [number, piece] of recipe.parts.entries()) {
    const index = indices[number];
    if (index === undefined) {
      if (piece.required)
        return { problem: say(RECIPES_TEXTS.lacksPieceKey, { key: piece.key, name: recipe.name }) };
      continue;
    }
    const found = valuesIn(snippet.parts[index]!.code, piece);
    if (!found) return { problem: say(RECIPES_TEXTS.codeNotWhat, { key: piece.key, name: recipe.name }) };
    for (const { name, value } of found) {
      const field = WRITTEN.exec(value)?.[1];
      if (field !== undefined && at.site.fields?.some((one) => one.name === field)) {
        known[name] = field;
        continue;
      }
      if ((values.get(name) ?? value) !== value)
        return { problem: say(RECIPES_TEXTS.hasTwoValues, { one: values.get(name)!, other: value }) };
      values.set(name, value);
    }
    places.set(index, found);
  }
  const unfit = recipe.fields.find((field) => isUnfit(field, values.get(field.name)));
  if (unfit)
    return {
      problem: say(RECIPES_TEXTS.fieldCannotBe, { label: unfit.label, value: values.get(unfit.name)! }),
    };
  // A field that is there may have another value on staging: what visitors get would not stay the same.
  const taken = (at.site.fields ?? []).map(({ name }) => name);
  const added = addFields(recipe.fields, known, snippet.key, at, taken);
  return withLink(recipe, snippet, added, values, places);
}

function isUnfit({ type }: RecipeField, value: string | undefined): boolean {
  return value !== undefined && fieldValueProblem(type, value) !== undefined;
}

function withLink(
  recipe: Recipe,
  snippet: SnapshotSnippet,
  { names, fields }: ReturnType<typeof addFields>,
  values: ReadonlyMap<string, string>,
  places: ReadonlyMap<number, readonly Found[]>,
): Followed | NotFollowed {
  const filled = fields.map((field) => {
    const own = recipe.fields.find(({ name }) => names[name] === field.name);
    const value = own && values.get(own.name);
    return value === undefined ? field : { ...field, value };
  });
  const parts = snippet.parts.map((part, index) => {
    const found = places.get(index);
    return found ? { ...part, code: withNames(part.code, found, names) } : part;
  });
  // What stands there may be written in a way that is not how a field is written there.
  const same = ENVIRONMENT_NAMES.every((environment) =>
    parts.every(
      ({ code }, index) =>
        filledCode(code, filled, environment) === filledCode(snippet.parts[index]!.code, filled, environment),
    ),
  );
  if (!same) return { problem: RECIPES_TEXTS.valueCodeWritten };
  const pieces = new Map(
    matchPieces(recipe, parts, names).map((index, number) => [index, recipe.parts[number]!] as const),
  );
  return {
    names,
    fields: filled,
    // The provider's words come along where nobody has kept any.
    parts: parts.map((part, index) => {
      const piece = pieces.get(index);
      const statement = part.statement ?? (piece && toPart(piece, names).statement);
      return statement === undefined ? part : { ...part, statement };
    }),
  };
}

function withNames(code: string, found: readonly Found[], names: Readonly<Record<string, string>>): string {
  let next = '';
  let at = 0;
  for (const { name, start, end } of found) {
    next += `${code.slice(at, start)}@{${names[name]!}}`;
    at = end;
  }
  return next + code.slice(at);
}

const WRITTEN = /^@\{([a-z][a-z0-9_-]*)\}$/;
const MAX_VALUE_LENGTH = 500;
/** Places times values; no provider's code is so long with so many fields. */
const MAX_CELLS = 1 << 23;
const FIELD = /@\{([a-z][a-z0-9_-]*)\}/g;

/**
 * The values in code that says what a piece says, white space aside; undefined where it says something else. Where there
 * are several ways the first value is as short as can be, then the second. Found from the end to the beginning: for each
 * place it is known whether the rest fits from there, so nothing is tried twice.
 */
function valuesIn(code: string, piece: RecipePart): Found[] | undefined {
  const template = piece.code.trim();
  const names = [...template.matchAll(FIELD)].map((match) => match[1]!);
  const literals = template.split(/@\{[a-z][a-z0-9_-]*\}/).map((text) => text.split(/\s+/));
  if (literals.length * code.length > MAX_CELLS) return undefined;
  const from = code.length - code.trimStart().length;
  const end = code.trimEnd().length;
  /** Where a value may end that begins at a place: the nearest place from which the rest fits; -1 where there is none. */
  let next: Int32Array | undefined;
  const nexts: Int32Array[] = [];
  /** Where each literal ends that begins at a place. */
  const ends: Int32Array[] = [];
  for (const literal of [...literals].reverse()) {
    const ending = new Int32Array(end + 1).fill(-1);
    const nearest = new Int32Array(end + 2).fill(-1);
    const isFirst = nexts.length === literals.length - 1;
    for (let at = end; at >= from; at--) {
      const to = isFirst && at !== from ? -1 : endOfLiteral(code, literal, at, end);
      const fits = to >= 0 && (next === undefined ? to === end : next[to]! >= 0);
      if (fits) ending[at] = to;
      const follows = isLineEnd(code, at) || at === end ? -1 : nearest[at + 1]!;
      const near = fits ? at : follows;
      nearest[at] = near >= 0 && near - at <= MAX_VALUE_LENGTH ? near : -1;
    }
    next = nearest;
    nexts.unshift(nearest);
    ends.unshift(ending);
  }
  let at = ends[0]![from]!;
  if (at < 0) return undefined;
  return names.map((name, index) => {
    const start = at;
    const to = nexts[index + 1]![start]!;
    at = ends[index + 1]![to]!;
    return { name, value: code.slice(start, to), start, end: to };
  });
}

/** Behind a literal at a place, whatever white space there is where it has some; -1 where it is not there. */
function endOfLiteral(code: string, words: readonly string[], at: number, end: number): number {
  let to = at;
  for (const [index, word] of words.entries()) {
    if (index > 0) {
      const begin = to;
      while (to < end && isSpace(code, to)) to++;
      if (to === begin) return -1;
    }
    if (!code.startsWith(word, to)) return -1;
    to += word.length;
  }
  return to <= end ? to : -1;
}

function isSpace(code: string, at: number): boolean {
  return code[at]!.trim() === '';
}

function isLineEnd(code: string, at: number): boolean {
  const sign = code[at];
  return sign === '\n' || sign === '\r' || sign === '\u2028' || sign === '\u2029';
}
