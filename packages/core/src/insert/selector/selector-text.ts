import { anchorName, type AnchorPlacement, type AnchorSide } from '../placements.js';
import { FOLDED_ATTRIBUTES, parseSelector } from './parse-selector.js';
import { cssIdentifier, cssString } from './css-text.js';
import type { AttributeTest, AttributeTestKind, Selector, SelectorStep } from './types.js';

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

/** The element of a placement as somebody writes it: `readAnchor` reads it again. */
export function anchorText(placement: AnchorPlacement): string {
  const isWord = 'anchor' in placement && placement.anchor !== '' && !NOT_A_WORD.test(placement.anchor);
  return isWord ? placement.anchor : anchorName(placement);
}

/** An id is one by itself, in the very letters of the page, quirks or not (DOM, getElementById). */
export function anchorSelector(placement: AnchorPlacement): Selector {
  if ('selector' in placement) return parseSelector(placement.selector);
  const test = { name: 'id', kind: 'equals', value: placement.anchor, folds: 'never' } as const;
  return [{ isChild: false, type: undefined, tests: [test], child: undefined, ofType: undefined }];
}

/** The id, where a selector is nothing else. */
function onlyId([step, ...more]: Selector): string | undefined {
  const { type, tests, child } = step!;
  const [test, ...others] = tests;
  const hasMore = more.length > 0 || others.length > 0 || type !== undefined || child !== undefined;
  return !hasMore && test?.name === 'id' && test.kind === 'equals' ? test.value : undefined;
}

const OPERATORS: Readonly<Record<Exclude<AttributeTestKind, 'exists'>, string>> = {
  equals: '=',
  word: '~=',
  hyphen: '|=',
  start: '^=',
  end: '$=',
  any: '*=',
};

/** One element of a selector as CSS. */
export function stepText({ type, tests, child, ofType }: SelectorStep): string {
  const places = [
    ...(child === undefined ? [] : [`:nth-child(${child})`]),
    ...(ofType === undefined ? [] : [`:nth-of-type(${ofType})`]),
  ];
  const isAny = type === undefined && tests.length === 0 && places.length === 0;
  return [
    isAny ? '*' : type === undefined ? '' : cssIdentifier(type),
    ...tests.map(testText),
    ...places,
  ].join('');
}

function testText({ name, kind, value, folds }: AttributeTest): string {
  if (folds === 'in-quirks' && name === 'id') return `#${cssIdentifier(value)}`;
  if (folds === 'in-quirks' && name === 'class') return `.${cssIdentifier(value)}`;
  const attribute = cssIdentifier(name);
  if (kind === 'exists') return `[${attribute}]`;
  const flag = folds === 'always' && !FOLDED_ATTRIBUTES.has(name) ? ' i' : '';
  return `[${attribute}${OPERATORS[kind]}${cssString(value)}${flag}]`;
}

/** A whole selector as CSS. */
export function selectorText(selector: Selector): string {
  return selector.map((step, i) => (i === 0 ? '' : step.isChild ? ' > ' : ' ') + stepText(step)).join('');
}
