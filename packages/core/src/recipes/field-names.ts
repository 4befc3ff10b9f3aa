import { FIELD_NAME, fieldUses, type Field } from '../fields/index.js';
import type { RecipeField } from './types.js';

/** Code with its fields under other names; those that are not named keep theirs. */
export function renamedFields(code: string, names: Readonly<Record<string, string>>): string {
  let renamed = '';
  let at = 0;
  for (const { name, start, end } of fieldUses(code)) {
    const next = Object.hasOwn(names, name) ? names[name]! : name;
    renamed += `${code.slice(at, start)}@{${next}}`;
    at = end;
  }
  return renamed + code.slice(at);
}

/** The same names the other way round. */
export function turned(names: Readonly<Record<string, string>>): Record<string, string> {
  return Object.fromEntries(Object.entries(names).map(([name, other]) => [other, name]));
}

const MAX_LENGTH = 40;

/**
 * What a recipe's field is called at a site: as in the recipe where that is free, or where the site has such a field
 * that no code uses; otherwise with the snippet's key in front, so that two installs do not share an account by chance.
 *
 * @param inUse - names of the fields that the site's code uses
 */
export function siteFieldName(
  { name, type }: Pick<RecipeField, 'name' | 'type'>,
  snippet: string,
  fields: readonly Field[],
  inUse: ReadonlySet<string>,
): string {
  const isFree = (candidate: string): boolean => {
    const there = fields.find((field) => field.name === candidate);
    return there === undefined || (there.type === type && !inUse.has(candidate));
  };
  if (isFree(name)) return name;
  const start = `${snippet.replaceAll('-', '_')}_${name}`.replace(/^[^a-z]+/, '').slice(0, MAX_LENGTH - 3);
  const base = FIELD_NAME.test(start) ? start : name.slice(0, MAX_LENGTH - 3);
  for (let number = 1; ; number++) {
    const candidate = number === 1 ? base : `${base}_${number}`;
    if (isFree(candidate)) return candidate;
  }
}
