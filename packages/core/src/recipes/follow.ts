import { filledCode, fieldValueProblem, type Field } from '../fields/index.js';
import { ENVIRONMENT_NAMES } from '../reach/index.js';
import type { Snapshot, SnapshotPart, SnapshotSnippet } from '../release/index.js';
import { addFields, toPart } from './apply.js';
import { matchPieces } from './pieces.js';
import type { Recipe, RecipeField, RecipePart } from './types.js';

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
  set: Pick<Snapshot, 'site' | 'snippets'>,
): Followed | NotFollowed {
  const indices = matchPieces(recipe, snippet.parts, {});
  const values = new Map<string, string>();
  /** Where a field of the site stands already. */
  const known: Record<string, string> = {};
  const places = new Map<number, Found[]>();
  for (const [number, piece] of recipe.parts.entries()) {
    const index = indices[number];
    if (index === undefined) {
      if (piece.required) return { problem: `It lacks the piece “${piece.key}” of “${recipe.name}”.` };
      continue;
    }
    const found = valuesIn(snippet.parts[index]!.code, piece);
    if (!found) return { problem: `Its code is not what the piece “${piece.key}” of “${recipe.name}” says.` };
    for (const { name, value } of found) {
      const field = WRITTEN.exec(value)?.[1];
      if (field !== undefined && set.site.fields?.some((one) => one.name === field)) {
        known[name] = field;
        continue;
      }
      if ((values.get(name) ?? value) !== value)
        return { problem: `It has two values for one field: “${values.get(name)!}” and “${value}”.` };
      values.set(name, value);
    }
    places.set(index, found);
  }
  const unfit = recipe.fields.find((field) => isUnfit(field, values.get(field.name)));
  if (unfit) return { problem: `“${unfit.label}” cannot be “${values.get(unfit.name)!}”.` };
  // A field that is there may have another value on staging: what visitors get would not stay the same.
  const taken = (set.site.fields ?? []).map(({ name }) => name);
  const added = addFields(recipe.fields, known, snippet.key, set, taken);
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
  if (!same) return { problem: 'A value in its code is written in a way in which a field would not be.' };
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
const LONGEST_VALUE = 500;
const FIELD = /@\{([a-z][a-z0-9_-]*)\}/g;

/** The values in code that says what a piece says, white space aside; undefined where it says something else. */
function valuesIn(code: string, piece: RecipePart): Found[] | undefined {
  const template = piece.code.trim();
  const names: string[] = [];
  let pattern = '';
  let at = 0;
  for (const match of template.matchAll(FIELD)) {
    pattern += `${literal(template.slice(at, match.index))}(.{0,${LONGEST_VALUE}}?)`;
    names.push(match[1]!);
    at = match.index + match[0].length;
  }
  const found = new RegExp(`^\\s*${pattern}${literal(template.slice(at))}\\s*$`, 'd').exec(code);
  if (!found) return undefined;
  return names.map((name, index) => {
    const [start, end] = found.indices![index + 1]!;
    return { name, value: code.slice(start, end), start, end };
  });
}

/** A text as it stands, whatever white space there is where it has some. */
function literal(text: string): string {
  return text
    .split(/\s+/)
    .map((piece) => piece.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
    .join('\\s+');
}
