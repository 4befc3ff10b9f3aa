import { fieldValueProblem, type Field } from '../fields/index.js';
import type { EnvironmentName } from '../reach/index.js';
import type { SnapshotPart } from '../snapshot/index.js';
import type { UnrankedSnippet } from '../edit/index.js';
import { renamedFields, siteFieldName } from './field-names.js';
import type { SiteNames } from './site-names.js';
import type { Recipe, RecipeField, RecipePart } from './types.js';
import { RECIPES_TEXTS } from '../texts/recipes.js';
import { say } from '../texts/say.js';

/** A value for one of the recipe's fields. */
export interface GivenValue {
  readonly name: string;
  /** Both when left out. */
  readonly environment?: EnvironmentName | undefined;
  readonly value: string;
}

/** What applying a recipe makes of a site. */
export interface Applied {
  readonly snippet: UnrankedSnippet;
  /** All fields of the site as they are then. */
  readonly fields: readonly Field[];
}

export interface ValueProblem {
  /** Index in the given values. */
  readonly index: number;
  readonly message: string;
}

/** What is wrong with values for a recipe's fields. */
export function givenValueProblems(recipe: Recipe, values: readonly GivenValue[]): ValueProblem[] {
  return values.flatMap(({ name, value }, index) => {
    const field = recipe.fields.find((candidate) => candidate.name === name);
    if (!field) {
      const known = recipe.fields.map((candidate) => candidate.name).join(', ') || 'none';
      return [{ index, message: say(RECIPES_TEXTS.nameAsksNo, { recipe: recipe.name, name, known }) }];
    }
    const problem = fieldValueProblem(field.type, value);
    return problem === undefined
      ? []
      : [{ index, message: say(RECIPES_TEXTS.labelCannotValue, { label: field.label, value, problem }) }];
  });
}

/**
 * The snippet that a recipe makes at a site, and the site's fields with the recipe's among them.
 *
 * @param values - without problems; what is not given stays at the recipe's default or its example
 */
export function applyRecipe(
  recipe: Recipe,
  at: SiteNames,
  {
    key,
    name,
    values,
  }: { readonly key: string; readonly name: string; readonly values: readonly GivenValue[] },
): Applied {
  const { names, fields } = addFields(recipe.fields, {}, key, at);
  const given = fields.map((field) => {
    const own = recipe.fields.find((candidate) => names[candidate.name] === field.name);
    return own
      ? withValues(
          field,
          values.filter((value) => value.name === own.name),
        )
      : field;
  });
  return {
    snippet: {
      ...{ key, name, purpose: recipe.summary, provider: recipe.provider, note: '', state: 'on' },
      pages: { include: [], exclude: [] },
      recipe: { key: recipe.key, version: recipe.version, fields: names },
      parts: recipe.parts.map((piece) => toPart(piece, names)),
    },
    fields: given,
  };
}

/** A piece as it is at a site. */
export function toPart(
  { placement, code, statement, per }: RecipePart,
  names: Readonly<Record<string, string>>,
): Omit<SnapshotPart, 'rank'> {
  return {
    placement,
    code: renamedFields(code, names),
    ...(statement === undefined ? {} : { statement }),
    ...(per === 'view' ? { per } : {}),
  };
}

/**
 * The site's fields with those of a recipe that it does not have yet, and what they are called there.
 *
 * @param taken - names that may not be taken, though no code uses them
 */
export function addFields(
  wanted: readonly RecipeField[],
  known: Readonly<Record<string, string>>,
  snippet: string,
  { site, usedFields }: SiteNames,
  taken: readonly string[] = [],
): { names: Record<string, string>; fields: Field[] } {
  const fields = [...(site.fields ?? [])];
  const inUse = new Set([...usedFields, ...Object.values(known), ...taken]);
  const names: Record<string, string> = { ...known };
  for (const field of wanted) {
    if (names[field.name] !== undefined) continue;
    const name = siteFieldName(field, snippet, fields, inUse);
    names[field.name] = name;
    inUse.add(name);
    const { type, label, example } = field;
    if (!fields.some((candidate) => candidate.name === name))
      fields.push({
        ...{ name, type, label },
        ...(example === undefined ? {} : { example }),
        ...(field.default === undefined ? {} : { value: field.default }),
      });
  }
  return { names, fields };
}

function withValues(field: Field, values: readonly GivenValue[]): Field {
  return values.reduce<Field>(
    (changed, { environment, value }) => ({ ...changed, [environment ?? 'value']: value }),
    field,
  );
}
