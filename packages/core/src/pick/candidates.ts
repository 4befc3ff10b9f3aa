import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import { selectorText, type AttributeTest, type Selector, type SelectorStep } from '../insert/index.js';

/** A selector that might name an element, and how likely a change of the page makes it name another one, or none. */
export interface Candidate {
  readonly selector: string;
  /** 0 for an id that somebody has written; more where it depends on more. */
  readonly frailty: number;
}

/** Attributes that say what an element is for. */
const TELLING = /^(?:name|role|type|rel|for|aria-label|itemprop|data-[a-z][a-z-]*)$/;
/** Elements that a page has one or few of. */
const LANDMARKS = new Set('main header footer nav article aside form section'.split(' '));
const MAX_VALUE = 40;
const MAX_CLASSES = 4;
const MAX_CANDIDATES = 60;

/** Selectors that might name an element, whether they do or not. */
export function candidatesFor(element: Tree.Element): readonly Candidate[] {
  const found = new Map<string, number>();
  const add = (selector: Selector, frailty: number): void => {
    // One word alone would be an id.
    const isWord = selector.length === 1 && selector[0]!.tests.length === 0;
    const text = selectorText(isWord ? [plain('body', false), ...selector] : selector);
    if (found.size < MAX_CANDIDATES || found.has(text))
      found.set(text, Math.min(frailty, found.get(text) ?? frailty));
  };
  const own = ownSteps(element);
  for (const { step, frailty } of own) add([step], frailty);
  const around = ancestors(element);
  for (const { step, frailty } of own.filter((one) => one.frailty < 40)) {
    for (const outer of around)
      for (const named of ownSteps(outer)
        .filter((one) => one.frailty < 10)
        .slice(0, 3))
        add([named.step, step], frailty + named.frailty + 2);
  }
  // From an element with a name, or from the body, child by child.
  const path: SelectorStep[] = [byPosition(element, true)];
  let frailty = 20;
  for (const outer of around) {
    if (outer.tagName !== 'body')
      for (const named of ownSteps(outer)
        .filter((one) => one.frailty < 10)
        .slice(0, 2))
        add([named.step, ...path], frailty + named.frailty);
    if (outer.tagName === 'body') add([plain('body', false), ...path], frailty);
    path.unshift(byPosition(outer, true));
    frailty += 10;
  }
  return [...found].map(([selector, one]) => ({ selector, frailty: one }));
}

interface OwnStep {
  readonly step: SelectorStep;
  readonly frailty: number;
}

/** What an element can be named by itself. */
function ownSteps(element: Tree.Element): readonly OwnStep[] {
  const steps: OwnStep[] = [];
  const { tagName: type, attrs } = element;
  const value = (name: string): string => attrs.find((one) => one.name === name)?.value ?? '';
  const id = value('id');
  if (id !== '' && !/\s/.test(id))
    steps.push({ step: plain(undefined, false, test('id', 'equals', id)), frailty: isMade(id) ? 30 : 0 });
  const classes = value('class').split(/\s+/).filter(Boolean).slice(0, MAX_CLASSES);
  for (const one of classes) {
    const frailty = isMade(one) ? 35 : 4;
    steps.push({ step: plain(undefined, false, test('class', 'word', one)), frailty });
    steps.push({ step: plain(type, false, test('class', 'word', one)), frailty: frailty + 1 });
  }
  for (const { name, value: written } of attrs) {
    if (!TELLING.test(name) || written.length > MAX_VALUE) continue;
    const frailty = isMade(written) ? 35 : 6;
    steps.push({
      step: plain(type, false, test(name, written === '' ? 'exists' : 'equals', written)),
      frailty,
    });
  }
  steps.push({ step: plain(type, false), frailty: LANDMARKS.has(type) ? 5 : 12 });
  return steps;
}

/** Names that a program has made change when it runs again: long numbers, and letters mixed with digits. */
function isMade(name: string): boolean {
  return /\d{4}|[a-z]\d[a-z]|\d[a-z]\d/i.test(name) || (/\d/.test(name) && /^[\da-f-]{8,}$/i.test(name));
}

function test(name: string, kind: AttributeTest['kind'], value: string): AttributeTest {
  return { name, kind, value, folds: name === 'id' || name === 'class' ? 'in-quirks' : 'never' };
}

function plain(type: string | undefined, isChild: boolean, ...tests: AttributeTest[]): SelectorStep {
  return { isChild, type, tests, child: undefined, ofType: undefined };
}

/** The element among its parent's children of its name. */
function byPosition(element: Tree.Element, isChild: boolean): SelectorStep {
  const { tagName, parentNode } = element;
  const alike = (parentNode?.childNodes ?? []).filter((node) => node.nodeName === tagName);
  const ofType = alike.length > 1 ? alike.indexOf(element) + 1 : undefined;
  return { ...plain(tagName, isChild), ofType };
}

/** From the parent to the body. */
function ancestors(element: Tree.Element): readonly Tree.Element[] {
  const found: Tree.Element[] = [];
  let at = element.parentNode;
  while (at && 'tagName' in at && at.tagName !== 'html') {
    found.push(at);
    at = at.parentNode;
  }
  return found;
}
