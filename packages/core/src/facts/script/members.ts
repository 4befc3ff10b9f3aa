import type { MemberExpression, Node } from 'acorn';
import { hidesElement } from '../page-changes.js';
import type { PageChangeKind, Range } from '../types.js';
import { placeElement, readInlineStyle } from './elements.js';
import { isBrowserName, isWindowName } from './browser-names.js';
import { isGuarded } from './execution-context.js';
import { defineGlobal, resetGlobal, useGlobal } from './globals.js';
import { elementGuard } from './guards.js';
import { keepsOld } from './stubs.js';
import type { Walker } from './walker.js';
import { HOLE, UNDEFINED, UNKNOWN, asText, text, type Value } from './values.js';

/** The name of the property that is asked for; undefined where it is not known. */
export function memberName(walker: Walker, node: MemberExpression): string | undefined {
  if (node.property.type === 'PrivateIdentifier') return undefined;
  if (!node.computed && node.property.type === 'Identifier') return node.property.name;
  const value = walker.evaluate(node.property);
  if (value.kind === 'text') return value.text.includes(HOLE) ? undefined : value.text;
  return value.kind === 'plain' && typeof value.value === 'number' ? String(value.value) : undefined;
}

/** The value of a property. `isCalled`: it is about to be called. */
export function member(
  walker: Walker,
  owner: Value,
  name: string | undefined,
  node: Node,
  isCalled = false,
): Value {
  if (name === undefined) {
    if (owner.kind === 'array' || owner.kind === 'found') return first(owner);
    return UNKNOWN;
  }
  switch (owner.kind) {
    case 'host':
      return hostMember(walker, owner.path, name, node, isCalled);
    case 'global':
      // Asking something of a global needs it.
      useGlobal(walker, owner.name, node);
      return { kind: 'global', name: owner.name, path: owner.path === '' ? name : `${owner.path}.${name}` };
    case 'object':
    case 'function':
      return owner.properties.get(name) ?? UNKNOWN;
    case 'element':
      if (name === 'style') return owner;
      if (name === 'parentNode' || name === 'parentElement') return { kind: 'host', path: 'document.body' };
      return owner.properties.get(name) ?? UNKNOWN;
    case 'array':
      if (name === 'length') return UNKNOWN;
      return owner.items[Number(name)] ?? UNKNOWN;
    case 'found':
      if (owner.isList) return /^\d+$/.test(name) ? first(owner) : UNKNOWN;
      return !isCalled ? foundMember(walker, owner.selector, name, node) : owner;
    case 'text':
      return name === 'length' || isCalled ? UNKNOWN : UNDEFINED;
    default:
      return UNKNOWN;
  }
}

function first(value: Value): Value {
  if (value.kind === 'array') return value.items[0] ?? UNKNOWN;
  return value.kind === 'found' ? { ...value, isList: false } : UNKNOWN;
}

/** Asking something of an element that is not there stops the script. */
function foundMember(walker: Walker, selector: string, name: string, node: Node): Value {
  needElement(walker, selector, node);
  if (name === 'parentNode' || name === 'parentElement') return { kind: 'host', path: 'document.body' };
  return name === 'style' || name === 'classList' || name === 'dataset'
    ? { kind: 'found', selector, isList: false }
    : UNKNOWN;
}

/** A script looks for an element, and does something with it. */
export function needElement(walker: Walker, selector: string, node: Node): void {
  if (/^(script|head|body|html|meta|link|title|base)\b[^#.]*$/i.test(selector) || selector.includes(HOLE))
    return;
  const id = /^#([\w-]+)$/.exec(selector)?.[1];
  walker.record.need({
    selector,
    id,
    when: walker.context.phase,
    isGuarded: isGuarded(walker.context, elementGuard(selector)),
    own: undefined,
    range: walker.range(node),
    confidence: 'certain',
  });
}

const LOCATION: Readonly<{ [name: string]: Value }> = {
  protocol: text('https:'),
  href: text(`https://${HOLE}`, 'likely'),
};

function hostMember(walker: Walker, path: string, name: string, node: Node, isCalled: boolean): Value {
  if (path === '' || isWindowName(path)) {
    if (isWindowName(name)) return { kind: 'host', path: '' };
    const made = walker.record.globals.get(name);
    if (made) return made;
    if (isBrowserName(name)) return { kind: 'host', path: name };
    // Reading a missing property gives undefined; calling it stops the script.
    if (isCalled) useGlobal(walker, name, node);
    return { kind: 'global', name, path: '' };
  }
  if (path === 'location' || path === 'document.location') return LOCATION[name] ?? text(HOLE, 'likely');
  if (path === 'document' && name === 'currentScript')
    return { kind: 'found', selector: 'script', isList: false };
  if (path === 'document' && (name === 'scripts' || name === 'forms' || name === 'images'))
    return { kind: 'found', selector: name.slice(0, -1), isList: true };
  return { kind: 'host', path: `${path}.${name}` };
}

const STORAGE = new Set(['localStorage', 'sessionStorage']);

/** Gives a property a value. `from` is the expression that the value comes from. */
export function setMember(walker: Walker, node: MemberExpression, value: Value, from?: Node): void {
  if (node.object.type === 'Super') return;
  const owner = walker.evaluate(node.object);
  const name = memberName(walker, node);
  if (isHandler(name)) {
    walker.callLater(value);
    if (owner.kind === 'host') {
      if (isRoot(owner.path) && isNamed(value))
        changePage(walker, 'handler', handlerName(owner.path, name!), node);
      return;
    }
  }
  switch (owner.kind) {
    case 'host':
      if ((owner.path === '' || isWindowName(owner.path)) && name !== undefined) {
        if (!isBrowserName(name)) defineGlobal(walker, name, value, node, from);
        else if (WRAPPED.test(name)) changePage(walker, 'wrapped', name, node);
        return;
      }
      if (from === undefined || !keepsOld(from)) changeHost(walker, owner.path, name, value, node);
      if (owner.path === 'document' && name === 'cookie') storeCookie(walker, value, node);
      else if (STORAGE.has(owner.path)) store(walker, owner.path, name, node);
      return;
    case 'global':
      useGlobal(walker, owner.name, node);
      // `queue.length = 0`
      if (name === 'length' && owner.path === '' && value.kind === 'plain' && value.value === 0)
        resetGlobal(walker, owner.name, node);
      return;
    case 'object':
    case 'function':
      if (name !== undefined) owner.properties.set(name, value);
      return;
    case 'element':
      setElementProperty(walker, owner, node, name, value);
      return;
    case 'found':
      needElement(walker, owner.selector, node);
      if (name === 'innerHTML' || name === 'outerHTML') {
        const html = asText(value);
        walker.record.write({
          html: html.text,
          confidence: html.confidence,
          range: walker.range(node),
          when: walker.context.phase,
          isDocumentWrite: false,
        });
      }
      return;
    default:
  }
}

/** Functions of the browser that other code counts on. */
const WRAPPED = /^(?:fetch|XMLHttpRequest|alert|confirm|open|setTimeout|setInterval|requestAnimationFrame)$/;
const WRAPPED_MEMBER =
  /^(?:history\.(?:pushState|replaceState)|console\.(?:log|error|warn)|document\.(?:write|writeln|createElement|addEventListener)|navigator\.sendBeacon|JSON\.(?:parse|stringify))$/;
const PROTOTYPE = /^([A-Z]\w*)\.prototype$/;
const ROOT_STYLE = /^document\.(?:documentElement|body)\.style$/;

function isRoot(path: string): boolean {
  return path === '' || isWindowName(path) || path === 'document' || path === 'document.body';
}

function handlerName(path: string, name: string): string {
  return `${path === '' || isWindowName(path) ? 'window' : path}.${name}`;
}

/** `null` takes a handler away. */
function isNamed(value: Value): boolean {
  return value.kind === 'function' || value.kind === 'unknown' || value.kind === 'global';
}

/** What a script does to an object of the browser that all code shares. */
function changeHost(walker: Walker, path: string, name: string | undefined, value: Value, node: Node): void {
  const shared = PROTOTYPE.exec(path)?.[1];
  if (shared !== undefined) changePage(walker, 'prototype', `${shared}.prototype.${name ?? '…'}`, node);
  if (name === undefined) return;
  if (WRAPPED_MEMBER.test(`${path}.${name}`)) changePage(walker, 'wrapped', `${path}.${name}`, node);
  if (ROOT_STYLE.test(path) && hidesElement(name, asText(value).text))
    changePage(walker, 'hidden', path.replace(/\.style$/, ''), node);
}

function changePage(walker: Walker, kind: PageChangeKind, what: string, node: Node): void {
  // A polyfill looks first; `prototype` and its like stand in conditions as parts of paths.
  const steps = what.split('.');
  const isKept = isGuarded(walker.context, steps[0]!) || isGuarded(walker.context, steps.at(-1)!);
  walker.record.pageChanges.push({
    kind,
    what,
    isGuarded: isKept,
    range: walker.range(node),
    confidence: 'certain',
  });
}

function isHandler(name: string | undefined): boolean {
  return name !== undefined && /^on[a-z]+$/.test(name);
}

function setElementProperty(
  walker: Walker,
  element: Extract<Value, { kind: 'element' }>,
  node: MemberExpression,
  name: string | undefined,
  value: Value,
): void {
  if (name === undefined) return;
  const isStyle =
    node.object.type === 'MemberExpression' &&
    node.object.property.type === 'Identifier' &&
    node.object.property.name === 'style';
  if (isStyle) {
    const style = asText(value).text;
    if (name === 'cssText') readInlineStyle(element, style);
    else
      element.styles.set(
        name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`),
        style,
      );
    return;
  }
  setProperty(walker, element, name, value, walker.range(node));
}

/** A property or an attribute of an element that the code has made. */
export function setProperty(
  walker: Walker,
  element: Extract<Value, { kind: 'element' }>,
  name: string,
  value: Value,
  range: Range,
): void {
  element.properties.set(name, value);
  if (name === 'style') readInlineStyle(element, asText(value).text);
  if (name === 'src' || name === 'href') {
    element.addressRange = range;
    if (element.tag === 'script') walker.record.sink('script-address', range);
    // An image is fetched without being placed.
    if (element.tag === 'img') placeElement(walker, element);
  }
  if (name === 'id' && value.kind === 'text')
    walker.record.makes.push({ id: value.text, by: 'script', range, confidence: value.confidence });
  if (name === 'innerHTML') {
    const html = asText(value);
    walker.record.write({
      html: html.text,
      confidence: html.confidence,
      range,
      when: walker.context.phase,
      isDocumentWrite: false,
    });
  }
}

function storeCookie(walker: Walker, value: Value, node: Node): void {
  const name = /^\s*([^=;\s]+)\s*=/.exec(asText(value).text)?.[1];
  walker.record.storage.push({
    where: 'cookie',
    key: name === undefined || name.includes(HOLE) ? undefined : name,
    range: walker.range(node),
    confidence: 'certain',
  });
}

export function store(walker: Walker, where: string, key: string | undefined, node: Node): void {
  walker.record.storage.push({
    where: where === 'sessionStorage' ? 'sessionStorage' : 'localStorage',
    key: key?.includes(HOLE) === true ? undefined : key,
    range: walker.range(node),
    confidence: 'certain',
  });
}
