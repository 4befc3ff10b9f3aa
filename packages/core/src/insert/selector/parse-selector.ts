import { AttributeAction, SelectorType, parse, type AttributeSelector, type PseudoSelector } from 'css-what';
import { INSERT_TEXTS } from '../../texts/insert.js';
import { say } from '../../texts/say.js';
import type { AttributeTest, AttributeTestKind, Selector, SelectorStep } from './types.js';

const MAX_LENGTH = 500;
const MAX_STEPS = 16;

/** Attributes of HTML whose values selectors compare without case (HTML Standard 4.16.2). */
export const FOLDED_ATTRIBUTES: ReadonlySet<string> = new Set(
  (
    'accept accept-charset align alink axis bgcolor charset checked clear codetype color compact declare defer dir ' +
    'direction disabled enctype face frame hreflang http-equiv lang language link media method multiple nohref ' +
    'noresize noshade nowrap readonly rel rev rules scope scrolling selected shape target text type valign valuetype ' +
    'vlink'
  ).split(' '),
);

const KINDS: Readonly<Partial<Record<AttributeAction, AttributeTestKind>>> = {
  [AttributeAction.Exists]: 'exists',
  [AttributeAction.Equals]: 'equals',
  [AttributeAction.Element]: 'word',
  [AttributeAction.Hyphen]: 'hyphen',
  [AttributeAction.Start]: 'start',
  [AttributeAction.End]: 'end',
  [AttributeAction.Any]: 'any',
};

/** A selector that insertion cannot follow; `message` says what of it and what can be used. */
export class SelectorError extends Error {
  override readonly name = 'SelectorError';
}

/**
 * Reads a selector of the part of CSS (Selectors Level 4) that is known when an element's start tag has gone by: names,
 * ids, classes, attributes, `:nth-child(3)`, `:nth-of-type(3)` and their `first-` forms, one inside another or children.
 *
 * @throws SelectorError for anything else
 */
export function parseSelector(text: string): Selector {
  if (text.length > MAX_LENGTH) throw new SelectorError(INSERT_TEXTS.selectorTooLong);
  const [tokens, ...others] = parsed(text);
  if (others.length > 0) throw new SelectorError(INSERT_TEXTS.selectorList);
  const steps: SelectorStep[] = [];
  let step = newStep(false);
  let isEmpty = true;
  for (const token of tokens ?? []) {
    if (token.type === SelectorType.Child || token.type === SelectorType.Descendant) {
      if (isEmpty) throw new SelectorError(INSERT_TEXTS.selectorUnreadable);
      steps.push(step);
      step = newStep(token.type === SelectorType.Child);
      isEmpty = true;
      continue;
    }
    isEmpty = false;
    switch (token.type) {
      case SelectorType.Universal:
        if (token.namespace) throw unsupported('|');
        break;
      case SelectorType.Tag:
        if (token.namespace) throw unsupported('|');
        step.type = token.name.toLowerCase();
        break;
      case SelectorType.Attribute:
        step.tests.push(attributeTest(token));
        break;
      case SelectorType.Pseudo:
        position(step, token);
        break;
      case SelectorType.PseudoElement:
        throw unsupported(`::${token.name}`);
      default:
        throw unsupported(token.type === SelectorType.Sibling ? '~' : '+');
    }
  }
  if (isEmpty) throw new SelectorError(INSERT_TEXTS.selectorUnreadable);
  steps.push(step);
  if (steps.length > MAX_STEPS) throw new SelectorError(INSERT_TEXTS.selectorTooLong);
  for (const { type, ofType } of steps)
    if (ofType !== undefined && type === undefined) throw new SelectorError(INSERT_TEXTS.selectorOfNoType);
  return steps;
}

type OpenStep = { -readonly [K in keyof SelectorStep]: SelectorStep[K] } & { tests: AttributeTest[] };

function newStep(isChild: boolean): OpenStep {
  return { isChild, type: undefined, tests: [], child: undefined, ofType: undefined };
}

function parsed(text: string): ReturnType<typeof parse> {
  try {
    return parse(text);
  } catch {
    throw new SelectorError(INSERT_TEXTS.selectorUnreadable);
  }
}

function unsupported(what: string): SelectorError {
  return new SelectorError(say(INSERT_TEXTS.selectorUnsupported, { what }));
}

function attributeTest({ name, action, value, ignoreCase, namespace }: AttributeSelector): AttributeTest {
  const kind = KINDS[action];
  if (kind === undefined || namespace) throw unsupported(`[${name}]`);
  const lower = name.toLowerCase();
  const folds =
    ignoreCase === true || (ignoreCase === null && FOLDED_ATTRIBUTES.has(lower))
      ? 'always'
      : ignoreCase === 'quirks'
        ? 'in-quirks'
        : 'never';
  return { name: lower, kind, value, folds };
}

/** `:nth-child(3)` and its like, in the plain form of one number. */
function position(step: OpenStep, { name, data }: PseudoSelector): void {
  const number = name.startsWith('first-') ? 1 : typeof data === 'string' ? wholeNumber(data) : undefined;
  if (number === undefined) throw unsupported(`:${name}`);
  if (name === 'first-child' || name === 'nth-child') step.child = sameOr(step.child, number);
  else if (name === 'first-of-type' || name === 'nth-of-type') step.ofType = sameOr(step.ofType, number);
  else throw unsupported(`:${name}`);
}

function wholeNumber(text: string): number | undefined {
  const number = /^\s*\+?([0-9]{1,6})\s*$/.exec(text)?.[1];
  return number === undefined || Number(number) === 0 ? undefined : Number(number);
}

/** Two positions of one element that differ fit nothing. */
function sameOr(known: number | undefined, number: number): number {
  if (known !== undefined && known !== number) throw new SelectorError(INSERT_TEXTS.selectorUnreadable);
  return number;
}
