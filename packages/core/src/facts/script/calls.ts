import type { CallExpression, Expression, NewExpression } from 'acorn';
import type { LoadMode, ResourceKind } from '../types.js';
import { isElement, placeElement } from './elements.js';
import { askedFeatures, constructedFeatures } from './features.js';
import { defineGlobal, resetGlobal, useGlobal } from './globals.js';
import { member, needElement, setProperty, store } from './members.js';
import type { Walker } from './walker.js';
import {
  COLLECTION,
  HOLE,
  UNDEFINED,
  UNKNOWN,
  WINDOW,
  asText,
  fewItems,
  joinTexts,
  leastConfident,
  text,
  type ElementValue,
  type Value,
} from './values.js';

type Call = CallExpression | NewExpression;

interface Called {
  readonly walker: Walker;
  readonly node: Call;
  readonly args: readonly Value[];
  readonly owner: Value;
}

type Known = (called: Called) => Value;

/** Methods that put nodes into the page, whatever they are called on. */
const PLACING = new Set([
  'appendChild',
  'insertBefore',
  'append',
  'prepend',
  'before',
  'after',
  'replaceChild',
  'replaceWith',
  'replaceChildren',
  'insertAdjacentElement',
]);

/** Methods that call what they are given, at once. */
const CALLING_NOW = new Set([
  'forEach',
  'map',
  'filter',
  'some',
  'every',
  'find',
  'findIndex',
  'reduce',
  'flatMap',
  'sort',
  'each',
  'replace',
]);

const place: Known = ({ walker, args }) => {
  for (const value of args) if (isElement(value)) placeElement(walker, value);
  return args[0] ?? UNKNOWN;
};

const later: Known = ({ walker, args }) => {
  for (const value of args) walker.callLater(value, args.slice(2));
  return UNKNOWN;
};

function fetched(kind: ResourceKind, mode: LoadMode = 'none'): Known {
  return ({ walker, node, args }) => {
    if (args[0] === undefined) return UNKNOWN;
    const address = asText(args[0]);
    if (address.text === HOLE) return UNKNOWN;
    walker.record.loads.push({
      address: address.text,
      kind,
      by: 'script',
      mode,
      when: walker.context.phase,
      noScript: false,
      range: walker.range(node),
      confidence: address.confidence,
    });
    return UNKNOWN;
  };
}

const find =
  (select: (name: string) => string, isList: boolean): Known =>
  ({ args }) => ({ kind: 'found', selector: select(asText(args[0] ?? UNKNOWN).text), isList });

const write: Known = ({ walker, node, args }) => {
  const parts = args.map(asText);
  walker.record.write({
    html: joinTexts(parts).text,
    confidence: leastConfident(parts),
    range: walker.range(node),
    when: walker.context.phase,
    isDocumentWrite: true,
  });
  return UNDEFINED;
};

const createElement: Known = ({ walker, node, args }) =>
  made(walker, node, asText(args[0] ?? UNKNOWN).text.toLowerCase());

const createElementNs: Known = ({ walker, node, args }) =>
  made(walker, node, asText(args[1] ?? UNKNOWN).text.toLowerCase());

function made(walker: Walker, node: Call, tag: string): ElementValue {
  return {
    kind: 'element',
    tag,
    properties: new Map(),
    styles: new Map(),
    range: walker.range(node),
    addressRange: undefined,
    isPlaced: false,
  };
}

const assign: Known = ({ walker, node, args }) => {
  const [target = UNKNOWN, ...sources] = args;
  for (const source of sources) {
    if (source.kind !== 'object') continue;
    for (const [name, value] of source.properties) {
      if (target.kind === 'element') {
        if (name === 'style' && value.kind === 'object')
          for (const [property, style] of value.properties)
            target.styles.set(
              property.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`),
              asText(style).text,
            );
        else setProperty(walker, target, name, value, source.range);
      } else if (target.kind === 'object' || target.kind === 'function') target.properties.set(name, value);
      else if (target.kind === 'host' && target.path === '') defineGlobal(walker, name, value, node);
    }
  }
  return target;
};

const defineProperty: Known = ({ walker, node, args }) => {
  const [target, name, description] = args;
  if (target?.kind === 'host' && target.path === '' && name?.kind === 'text')
    defineGlobal(
      walker,
      name.text,
      (description?.kind === 'object' && description.properties.get('value')) || UNKNOWN,
      node,
    );
  return target ?? UNKNOWN;
};

const passOn: Known = ({ args }) => (args[0] === undefined ? UNKNOWN : asText(args[0]));

/** What the browser's own functions do, by their path from window. One more is one more line. */
const HOST_CALLS: Readonly<{ [path: string]: Known }> = {
  'document.createElement': createElement,
  'document.createElementNS': createElementNs,
  'document.write': write,
  'document.writeln': write,
  'document.getElementById': find((id) => `#${id}`, false),
  'document.querySelector': find((selector) => selector, false),
  'document.querySelectorAll': find((selector) => selector, true),
  'document.getElementsByTagName': find((tag) => tag, true),
  'document.getElementsByClassName': find((name) => `.${name}`, true),
  'document.getElementsByName': find((name) => `[name="${name}"]`, true),
  setTimeout: later,
  setInterval: later,
  requestAnimationFrame: later,
  requestIdleCallback: later,
  queueMicrotask: later,
  addEventListener: later,
  fetch: fetched('data'),
  importScripts: fetched('script'),
  'navigator.sendBeacon': fetched('data'),
  'navigator.serviceWorker.register': (called) => {
    const { walker, node, args } = called;
    walker.record.pageChanges.push({
      kind: 'worker',
      what: asText(args[0] ?? UNKNOWN).text,
      isGuarded: false,
      range: walker.range(node),
      confidence: 'certain',
    });
    return fetched('script')(called);
  },
  'Object.assign': assign,
  'Object.defineProperty': defineProperty,
  eval: (called) => {
    called.walker.record.sink('eval', called.walker.range(called.node));
    return UNKNOWN;
  },
  encodeURIComponent: passOn,
  decodeURIComponent: passOn,
  encodeURI: passOn,
  String: passOn,
};
for (const storage of ['localStorage', 'sessionStorage'])
  for (const method of ['getItem', 'setItem', 'removeItem'])
    (HOST_CALLS as { [path: string]: Known })[`${storage}.${method}`] = ({ walker, node, args }) => {
      store(walker, storage, args[0] && asText(args[0]).text, node);
      return UNKNOWN;
    };

const evaluated: Known = ({ walker, node }) => {
  walker.record.sink('eval', walker.range(node));
  return UNKNOWN;
};

const NEW: Readonly<{ [path: string]: Known }> = {
  Function: evaluated,
  Array: ({ walker, node, args }) =>
    args.length === 1 ? UNKNOWN : { kind: 'array', items: [...args], range: walker.range(node) },
  Object: ({ walker, node, args }) =>
    args.length === 0 ? { kind: 'object', properties: new Map(), range: walker.range(node) } : UNKNOWN,
  Image: ({ walker, node }) => made(walker, node, 'img'),
  Audio: ({ walker, node }) => made(walker, node, 'audio'),
  Map: () => COLLECTION,
  Set: () => COLLECTION,
  WeakMap: () => COLLECTION,
  WeakSet: () => COLLECTION,
  Worker: fetched('script'),
  SharedWorker: fetched('script'),
  WebSocket: fetched('data'),
  EventSource: fetched('data'),
  Promise: ({ walker, args }) => {
    if (args[0]?.kind === 'function') walker.call(args[0], [], UNKNOWN);
    return UNKNOWN;
  },
};

/** A call: of something of the browser's, of the code's own functions, or of what other code brings. */
export function callFunction(
  walker: Walker,
  node: CallExpression,
  fn: Value,
  args: readonly Value[],
  owner: Value,
  name: string | undefined,
): Value {
  const called: Called = { walker, node, args, owner };
  const path = globalPath(walker, fn, owner, name) ?? calledPath(node.callee as Expression);
  if (path !== undefined && args.length > 0 && owner.kind !== 'collection')
    walker.record.calls.push({
      name: path,
      args,
      ranges: node.arguments.map((argument) => walker.range(argument)),
      range: walker.range(node),
    });
  for (const feature of askedFeatures(fn.kind === 'host' ? fn.path : undefined, name, args))
    walker.record.ask(feature, walker.range(node));
  if (fn.kind === 'host') {
    const known = HOST_CALLS[fn.path];
    if (known) return known(called);
  }
  // `f.call(…)`, `f.apply(…)`, `f.bind(…)`
  if (owner.kind === 'function') {
    if (name === 'call') return walker.call(owner, args.slice(1), args[0] ?? UNKNOWN);
    if (name === 'apply')
      return walker.call(owner, args[1]?.kind === 'array' ? args[1].items : [], args[0] ?? UNKNOWN);
    if (name === 'bind') return owner;
  }
  // Called by its name alone, a function has window for `this`; in strict code nothing, and nobody relies on that.
  if (fn.kind === 'function') return walker.call(fn, args, name === undefined ? WINDOW : owner);
  if (fn.kind === 'global') useGlobal(walker, fn.name, node);
  // `queue.splice(0)`
  if (owner.kind === 'global' && name === 'splice' && args.length === 1 && isZero(args[0]!))
    resetGlobal(walker, owner.name, node);
  if (name !== undefined) {
    const value = method(called, name);
    if (value) return value;
  }
  for (const value of args) walker.callLater(value);
  return UNKNOWN;
}

function isZero(value: Value): boolean {
  return value.kind === 'plain' && value.value === 0;
}

/** Methods of elements, lists and strings, and those that nearly always mean the same. */
function method(called: Called, name: string): Value | undefined {
  const { walker, node, args, owner } = called;
  // A list is never missing, but where nothing is there yet it is empty, and what is done with it is not done.
  const isUseless =
    owner.kind === 'found' && owner.isList && name === 'forEach' && /[.#[]/.test(owner.selector);
  if (isUseless && walker.context.phase === 'parse') needElement(walker, owner.selector, node);
  if (owner.kind === 'found' && !PLACING.has(name) && !owner.isList)
    needElement(walker, owner.selector, node);
  if (PLACING.has(name)) {
    if (owner.kind === 'found' && !owner.isList) needElement(walker, owner.selector, node);
    return place(called);
  }
  switch (name) {
    case 'setAttribute':
      if (owner.kind === 'element' && args[0]?.kind === 'text')
        setProperty(walker, owner, args[0].text, args[1] ?? UNKNOWN, walker.range(node));
      return UNDEFINED;
    case 'insertAdjacentHTML': {
      const html = asText(args[1] ?? UNKNOWN);
      walker.record.write({
        html: html.text,
        confidence: html.confidence,
        range: walker.range(node),
        when: walker.context.phase,
        isDocumentWrite: false,
      });
      return UNDEFINED;
    }
    case 'querySelector':
    case 'querySelectorAll':
    case 'getElementsByTagName':
    case 'getElementsByClassName':
      return { kind: 'found', selector: asText(args[0] ?? UNKNOWN).text, isList: name !== 'querySelector' };
    case 'open': {
      const address = args[1] && asText(args[1]);
      if (address && /^(https?:)?\/\//.test(address.text)) fetched('data')({ ...called, args: [args[1]!] });
      return UNDEFINED;
    }
    case 'item':
      return member(walker, owner, '0', node);
    case 'getAttribute':
      return owner.kind === 'element'
        ? (owner.properties.get(asText(args[0] ?? UNKNOWN).text) ?? UNKNOWN)
        : UNKNOWN;
    default:
  }
  if (owner.kind === 'collection' && (name === 'set' || name === 'add')) {
    for (const value of args) walker.callLater(value);
    return owner;
  }
  if (owner.kind === 'array') return ofArray(called, owner.items, name);
  if (owner.kind === 'text') return ofText(owner.text, owner.confidence, name, args);
  if (!CALLING_NOW.has(name)) return undefined;
  for (const value of args) if (value.kind === 'function') walker.call(value, [], UNKNOWN);
  return UNKNOWN;
}

function ofArray({ walker, args }: Called, items: Value[], name: string): Value | undefined {
  if (name === 'push' || name === 'unshift') {
    if (items.length < 200) items.push(...args);
    return UNKNOWN;
  }
  if (name === 'join') {
    const separator = args[0] ? asText(args[0]).text : ',';
    const parts = items.map(asText);
    return joinTexts(parts, separator);
  }
  if (!CALLING_NOW.has(name)) return undefined;
  const [fn] = args;
  const results: Value[] = [];
  if (fn?.kind === 'function')
    for (const item of items.length === 0 ? [UNKNOWN] : items.slice(0, 20))
      results.push(walker.call(fn, [item, UNKNOWN], UNKNOWN));
  return name === 'map' ? { kind: 'array', items: results, range: { start: 0, end: 0 } } : UNKNOWN;
}

/** A text in which the first of what is sought is another, in pieces. */
function replaced(owner: string, sought: string, other: string): string[] {
  const at = owner.indexOf(sought);
  return at < 0 ? [owner] : [owner.slice(0, at), other, owner.slice(at + sought.length)];
}

function ofText(
  owner: string,
  confidence: 'certain' | 'likely' | 'guess',
  name: string,
  args: readonly Value[],
): Value {
  const given = args.map(asText);
  switch (name) {
    case 'concat':
      return joinTexts([text(owner, confidence), ...given]);
    case 'toString':
    case 'valueOf':
      return text(owner, confidence);
    case 'trim':
      return text(owner.trim(), confidence);
    case 'toLowerCase':
      return text(owner.toLowerCase(), confidence);
    case 'toUpperCase':
      return text(owner.toUpperCase(), confidence);
    case 'replace':
      if (args[0]?.kind === 'text' && args[1]?.kind === 'text')
        return joinTexts(replaced(owner, args[0].text, given[1]!.text).map((part) => text(part, confidence)));
      return text(owner.includes(HOLE) ? owner : HOLE, 'likely');
    case 'split':
      if (args[0]?.kind === 'text')
        return {
          kind: 'array',
          items: fewItems(owner.split(args[0].text).map((part) => text(part, confidence))),
          range: { start: 0, end: 0 },
        };
      return UNKNOWN;
    default:
      return UNKNOWN;
  }
}

/** `new X(…)`. */
export function makeNew(walker: Walker, node: NewExpression, callee: Value, args: readonly Value[]): Value {
  const called: Called = { walker, node, args, owner: UNKNOWN };
  if (callee.kind === 'host') {
    for (const feature of constructedFeatures(callee.path)) walker.record.ask(feature, walker.range(node));
    const known = NEW[callee.path];
    if (known) return known(called);
  }
  if (callee.kind === 'global') {
    useGlobal(walker, callee.name, node);
    const path = calledPath(node.callee);
    if (path !== undefined)
      walker.record.calls.push({
        name: path,
        args,
        ranges: node.arguments.map((argument) => walker.range(argument)),
        range: walker.range(node),
      });
  }
  if (callee.kind === 'function')
    walker.call(callee, args, { kind: 'object', properties: new Map(), range: walker.range(node) });
  else for (const value of args) walker.callLater(value);
  return UNKNOWN;
}

/** The global name by which something is called, though it has another one here. */
function globalPath(walker: Walker, fn: Value, owner: Value, name: string | undefined): string | undefined {
  if (owner.kind === 'global') return [owner.name, owner.path, name].filter(Boolean).join('.');
  for (const [global, value] of walker.record.globals) {
    if (value === fn && fn.kind === 'function') return global;
    if (value === owner && (owner.kind === 'array' || owner.kind === 'object' || owner.kind === 'function'))
      return name === undefined ? global : `${global}.${name}`;
  }
  return undefined;
}

/** How a callee is written, when it is names and dots alone. */
function calledPath(callee: Expression): string | undefined {
  if (callee.type === 'Identifier') return callee.name;
  if (callee.type === 'ChainExpression' || callee.type === 'ParenthesizedExpression')
    return calledPath(callee.expression);
  if (callee.type !== 'MemberExpression' || callee.object.type === 'Super') return undefined;
  const owner = calledPath(callee.object);
  if (owner === undefined) return undefined;
  if (!callee.computed && callee.property.type === 'Identifier') return `${owner}.${callee.property.name}`;
  return callee.property.type === 'Literal' ? `${owner}.${String(callee.property.value)}` : owner;
}
