import { placementKey, placementWords } from '../insert/index.js';
import { listWords } from '../reach/index.js';
import type { Recipe, RecipePart, RecipeStep } from './types.js';
import { RECIPES_TEXTS } from '../texts/recipes.js';
import { say } from '../texts/say.js';

/** What differs between two versions of a recipe, in sentences; the later one's own word of it first. */
export function recipeDifference(from: Recipe, to: Recipe): string[] {
  return [
    ...(to.changes === undefined || to.changes === from.changes ? [] : [to.changes]),
    ...retirement(from, to),
    ...partWords(from.parts, to.parts),
    ...listChange(from.fields, to.fields, ({ name }) => name, RECIPES_TEXTS.asks, RECIPES_TEXTS.noLongerAsks),
    ...stepWords(from.steps, to.steps),
    ...listChange(
      from.after,
      to.after,
      (key) => key,
      RECIPES_TEXTS.beforeMustCome,
      RECIPES_TEXTS.beforeNeedNo,
    ),
    ...(from.repeatable === to.repeatable
      ? []
      : [to.repeatable ? RECIPES_TEXTS.mayStandTwice : RECIPES_TEXTS.mayStandPage]),
    ...(from.floats === to.floats
      ? []
      : [
          to.floats === undefined
            ? RECIPES_TEXTS.noLongerFloats
            : say(RECIPES_TEXTS.floatsFloats, { floats: to.floats }),
        ]),
    ...(JSON.stringify(from.recognise) === JSON.stringify(to.recognise)
      ? []
      : [RECIPES_TEXTS.recognisedOtherAddresses]),
  ];
}

function retirement({ retired: was }: Recipe, { retired }: Recipe): string[] {
  if (JSON.stringify(was) === JSON.stringify(retired)) return [];
  return [
    retired ? say(RECIPES_TEXTS.retiredReason, { reason: retired.reason }) : RECIPES_TEXTS.noLongerRetired,
  ];
}

function partWords(from: readonly RecipePart[], to: readonly RecipePart[]): string[] {
  const before = new Map(from.map((part) => [part.key, part]));
  const said = to.flatMap((part) => {
    const was = before.get(part.key);
    before.delete(part.key);
    if (!was)
      return [say(RECIPES_TEXTS.partKeyNew, { key: part.key, placement: placementWords(part.placement) })];
    return [
      ...(was.required === part.required
        ? []
        : [say(part.required ? RECIPES_TEXTS.isNeededNow : RECIPES_TEXTS.mayBeLeftOut, { key: part.key })]),
      ...(was.code === part.code ? [] : [say(RECIPES_TEXTS.partKeyHas, { key: part.key })]),
      ...(placementKey(was.placement) === placementKey(part.placement)
        ? []
        : [
            say(RECIPES_TEXTS.partKeyGoes, {
              key: part.key,
              placement: placementWords(part.placement),
              before: placementWords(was.placement),
            }),
          ]),
    ];
  });
  return [...said, ...[...before.keys()].map((key) => say(RECIPES_TEXTS.partKeyGone, { key }))];
}

function stepWords(from: readonly RecipeStep[], to: readonly RecipeStep[]): string[] {
  const before = new Map(from.map((step) => [step.key, step]));
  const said = to.flatMap(({ key, title }) => {
    const was = before.get(key);
    before.delete(key);
    if (!was) return [say(RECIPES_TEXTS.thereOneStep, { title })];
    return was.title === title ? [] : [say(RECIPES_TEXTS.stepProviderAnother, { title })];
  });
  const gone = [...before.values()].map(({ title }) => say(RECIPES_TEXTS.stepProviderGone, { title }));
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
