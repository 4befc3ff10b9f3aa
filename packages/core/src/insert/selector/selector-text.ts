import { AttributeAction, SelectorType, stringify } from 'css-what';
import type { AnchorPlacement, AnchorSide } from '../placements.js';
import { FOLDED_ATTRIBUTES, parseSelector } from './parse-selector.js';
import type { AttributeTestKind, Selector, SelectorStep } from './types.js';

/** Neither an id nor the name of an element has any of these. */
const NOT_A_WORD = /[\s>.:[\]#*,+~|()\\"']/;

/**
 * A selector as it is kept: names in lower case, one space around `>`. @throws SelectorError
 *
 * @example normalSelector('MAIN>P:first-child') // 'main > p:nth-child(1)'
 */
export function normalSelector(text: string): string {
  return selectorText(parseSelector(text.trim()));
}

/**
 * The element that somebody has named: by its id, with or without `#`, or by a selector. One word alone is an id.
 *
 * @throws SelectorError
 */
export function readAnchor(text: string, side: AnchorSide): AnchorPlacement {
  const trimmed = text.trim();
  if (trimmed !== '' && !NOT_A_WORD.test(trimmed)) return { anchor: trimmed, side };
  const selector = normalSelector(trimmed);
  const id = onlyId(parseSelector(selector));
  return id !== undefined && selector.startsWith('#') ? { anchor: id, side } : { selector, side };
}

/** The id, where a selector is nothing else. */
function onlyId([step, ...more]: Selector): string | undefined {
  const { type, tests, child } = step!;
  const [test, ...others] = tests;
  const hasMore = more.length > 0 || others.length > 0 || type !== undefined || child !== undefined;
  return !hasMore && test?.name === 'id' && test.kind === 'equals' ? test.value : undefined;
}

const ACTIONS: Readonly<Record<AttributeTestKind, AttributeAction>> = {
  exists: AttributeAction.Exists,
  equals: AttributeAction.Equals,
  word: AttributeAction.Element,
  hyphen: AttributeAction.Hyphen,
  start: AttributeAction.Start,
  end: AttributeAction.End,
  any: AttributeAction.Any,
};

/** One element of a selector as CSS. */
export function stepText({ type, tests, child, ofType }: SelectorStep): string {
  const { Tag, Universal, Attribute, Pseudo } = SelectorType;
  const isAny = type === undefined && tests.length === 0 && child === undefined;
  const ignoreCases = { always: true, 'in-quirks': 'quirks', never: null } as const;
  return stringify([
    [
      ...(type === undefined ? [] : [{ type: Tag, name: type, namespace: null }]),
      ...(isAny ? [{ type: Universal, namespace: null }] : []),
      ...tests.map(({ name, kind, value, folds }) => ({
        type: Attribute,
        name,
        action: ACTIONS[kind],
        value,
        namespace: null,
        ignoreCase: FOLDED_ATTRIBUTES.has(name) ? null : ignoreCases[folds],
      })),
      ...(child === undefined ? [] : [{ type: Pseudo, name: 'nth-child', data: String(child) }]),
      ...(ofType === undefined ? [] : [{ type: Pseudo, name: 'nth-of-type', data: String(ofType) }]),
    ] as Parameters<typeof stringify>[0][number],
  ]);
}

/** A whole selector as CSS. */
export function selectorText(selector: Selector): string {
  return selector.map((step, i) => (i === 0 ? '' : step.isChild ? ' > ' : ' ') + stepText(step)).join('');
}
