import { containmentProblem } from '../contain/index.js';
import { fieldUses, fieldValueProblem, filledCode } from '../fields/index.js';
import { addressPatternProblem } from './recognise.js';
import type { Recipe } from './types.js';
import { RECIPES_TEXTS } from '../texts/recipes.js';
import { say } from '../texts/say.js';

export interface RecipeProblem {
  /** Where in the recipe it is. */
  readonly path: readonly (string | number)[];
  readonly message: string;
}

/** What is wrong with a recipe beyond its form: what it refers to is not there, or could not be put into a page. */
export function recipeProblems(recipe: Recipe): RecipeProblem[] {
  return [
    ...twice(recipe.parts, 'parts', 'key'),
    ...twice(recipe.fields, 'fields', 'name'),
    ...twice(recipe.steps, 'steps', 'key'),
    ...codeProblems(recipe),
    ...valueProblems(recipe),
    ...stepProblems(recipe),
    ...recipe.recognise.addresses.flatMap((address, index) => {
      const message = addressPatternProblem(address);
      return message === undefined ? [] : [{ path: ['recognise', 'addresses', index], message }];
    }),
    ...(recipe.after.includes(recipe.key)
      ? [{ path: ['after', recipe.after.indexOf(recipe.key)], message: RECIPES_TEXTS.cannotComeBefore }]
      : []),
  ];
}

function twice<K extends string>(
  items: readonly Readonly<Record<K, string>>[],
  list: string,
  name: K,
): RecipeProblem[] {
  return items.flatMap((item, index) =>
    items.findIndex((other) => other[name] === item[name]) === index
      ? []
      : [{ path: [list, index, name], message: say(RECIPES_TEXTS.itemThereTwice, { item: item[name] }) }],
  );
}

function codeProblems({ parts, fields }: Recipe): RecipeProblem[] {
  const known = new Set(fields.map(({ name }) => name));
  const examples = fields.map(({ name, type, label, example, default: value }) => ({
    ...{ name, type, label },
    value: value ?? example ?? STAND_INS[type],
  }));
  const used = new Set<string>();
  const problems = parts.flatMap(({ code, placement }, index) => {
    const path = ['parts', index, 'code'];
    const uses = fieldUses(code);
    for (const { name } of uses) used.add(name);
    const inUses = uses.flatMap(({ name, place }): RecipeProblem[] => {
      if (!known.has(name)) return [{ path, message: say(RECIPES_TEXTS.nameNotAmong, { name }) }];
      return place.kind === 'refused'
        ? [{ path, message: say(RECIPES_TEXTS.nameCannotStand, { name, why: place.why }) }]
        : [];
    });
    const contained = containmentProblem(filledCode(code, examples, 'live'), placement);
    return [...inUses, ...(contained ? [{ path, message: contained.message }] : [])];
  });
  const unused = fields.flatMap(({ name }, index) =>
    used.has(name)
      ? []
      : [
          {
            path: ['fields', index, 'name'],
            message: say(RECIPES_TEXTS.noPartS, { name }),
          },
        ],
  );
  return [...problems, ...unused];
}

/** Values that fit their types, for fields without an example. */
const STAND_INS = {
  text: 'text',
  id: 'id',
  number: '1',
  flag: 'true',
  colour: '#000000',
  url: 'https://www.example.com/',
  phone: '+353 1 555 0100',
} as const;

function valueProblems({ fields }: Recipe): RecipeProblem[] {
  return fields.flatMap((field, index) =>
    (['example', 'default'] as const).flatMap((place) => {
      const value = field[place];
      const message = value === undefined ? undefined : fieldValueProblem(field.type, value);
      return message === undefined ? [] : [{ path: ['fields', index, place], message }];
    }),
  );
}

function stepProblems({ steps }: Recipe): RecipeProblem[] {
  return steps.flatMap(({ per, title, open }, index) => [
    ...(per === 'host' && !open.includes('{host}')
      ? [
          {
            path: ['steps', index, 'open'],
            message: say(RECIPES_TEXTS.sayWhichHost),
          },
        ]
      : []),
    ...(per === 'site' && (title + open).includes('{host}')
      ? [{ path: ['steps', index, 'per'], message: say(RECIPES_TEXTS.namesHostSo) }]
      : []),
  ]);
}
