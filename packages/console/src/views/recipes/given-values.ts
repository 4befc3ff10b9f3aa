import type { RecipeApplication, RecipeResource } from '@pragmatica/contract';
import { fieldValueProblem } from '@pragmatica/core';

export type RecipeFieldResource = RecipeResource['recipe']['fields'][number];
export type ValuePlace = 'value' | 'staging';

/** What was typed, by site, field and place. What is not typed is the recipe's default. */
export type Typed = ReadonlyMap<string, string>;

export function typedKey(site: string, field: string, place: ValuePlace): string {
  return `${site} ${field} ${place}`;
}

export function typedValue(
  typed: Typed,
  site: string,
  field: RecipeFieldResource,
  place: ValuePlace,
): string {
  return typed.get(typedKey(site, field.name, place)) ?? (place === 'value' ? (field.default ?? '') : '');
}

/** What is wrong with a typed value; nothing typed is not wrong yet. */
export function typedProblem(
  typed: Typed,
  site: string,
  field: RecipeFieldResource,
  place: ValuePlace,
): string | undefined {
  const value = typedValue(typed, site, field, place);
  return value === '' ? undefined : fieldValueProblem(field.type, value);
}

/** The application for one site. */
export function targetOf(
  typed: Typed,
  site: string,
  fields: readonly RecipeFieldResource[],
): RecipeApplication['targets'][number] {
  return {
    site,
    values: fields.flatMap((field) => {
      const value = typedValue(typed, site, field, 'value');
      const staging = typedValue(typed, site, field, 'staging');
      return [
        ...(value === '' ? [] : [{ name: field.name, value }]),
        ...(staging === '' ? [] : [{ name: field.name, environment: 'staging' as const, value: staging }]),
      ];
    }),
  };
}
