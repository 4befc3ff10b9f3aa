import { placementKey, placementWords } from '../insert/index.js';
import { listWords } from '../reach/index.js';
import type { Recipe, RecipePart, RecipeStep } from './types.js';

/** What differs between two versions of a recipe, in sentences; the later one's own word of it first. */
export function recipeDifference(from: Recipe, to: Recipe): string[] {
  return [
    ...(to.changes === undefined || to.changes === from.changes ? [] : [to.changes]),
    ...retirement(from, to),
    ...partWords(from.parts, to.parts),
    ...listChange(from.fields, to.fields, ({ name }) => name, 'It asks for', 'It no longer asks for'),
    ...stepWords(from.steps, to.steps),
    ...listChange(from.after, to.after, (key) => key, 'Before it must come', 'Before it need no longer come'),
    ...(from.repeatable === to.repeatable
      ? []
      : [to.repeatable ? 'It may stand twice on a page.' : 'It may stand on a page only once.']),
    ...(from.floats === to.floats
      ? []
      : [to.floats === undefined ? 'It no longer floats over the page.' : `It floats at the ${to.floats}.`]),
    ...(JSON.stringify(from.recognise) === JSON.stringify(to.recognise)
      ? []
      : ['It is recognised by other addresses or names.']),
  ];
}

function retirement({ retired: was }: Recipe, { retired }: Recipe): string[] {
  if (JSON.stringify(was) === JSON.stringify(retired)) return [];
  return [retired ? `It is retired: ${retired.reason}` : 'It is no longer retired.'];
}

function partWords(from: readonly RecipePart[], to: readonly RecipePart[]): string[] {
  const before = new Map(from.map((part) => [part.key, part]));
  const said = to.flatMap((part) => {
    const was = before.get(part.key);
    before.delete(part.key);
    if (!was) return [`The part “${part.key}” is new, ${placementWords(part.placement)}.`];
    return [
      ...(was.required === part.required
        ? []
        : [`The part “${part.key}” ${part.required ? 'is needed now' : 'may be left out'}.`]),
      ...(was.code === part.code ? [] : [`The part “${part.key}” has new code.`]),
      ...(placementKey(was.placement) === placementKey(part.placement)
        ? []
        : [
            `The part “${part.key}” goes ${placementWords(part.placement)}; before, ${placementWords(was.placement)}.`,
          ]),
    ];
  });
  return [...said, ...[...before.keys()].map((key) => `The part “${key}” is gone.`)];
}

function stepWords(from: readonly RecipeStep[], to: readonly RecipeStep[]): string[] {
  const before = new Map(from.map((step) => [step.key, step]));
  const said = to.flatMap(({ key, title }) => {
    const was = before.get(key);
    before.delete(key);
    if (!was) return [`There is one step more at the provider: ${title}.`];
    return was.title === title ? [] : [`A step at the provider is another: ${title}.`];
  });
  const gone = [...before.values()].map(({ title }) => `A step at the provider is gone: ${title}.`);
  return [...said, ...gone];
}

function listChange<T>(
  from: readonly T[],
  to: readonly T[],
  nameOf: (item: T) => string,
  more: string,
  less: string,
): string[] {
  const added = to.filter((item) => !from.some((other) => nameOf(other) === nameOf(item)));
  const gone = from.filter((item) => !to.some((other) => nameOf(other) === nameOf(item)));
  return [
    ...(added.length > 0 ? [`${more} ${listWords(added.map(nameOf))}.`] : []),
    ...(gone.length > 0 ? [`${less} ${listWords(gone.map(nameOf))}.`] : []),
  ];
}
