import type { MemberExpression, Node } from 'acorn';
import type { Range } from '../types.js';
import { placeElement, readInlineStyle } from './elements.js';
import { isBrowserName, isWindowName } from './browser-names.js';
import { elementGuard } from './guards.js';
import type { ScriptReader } from './reader.js';
import { HOLE, UNDEFINED, UNKNOWN, asText, text, type Value } from './values.js';

/** The name of the property that is asked for; undefined where it is not known. */
export function memberName(reader: ScriptReader, node: MemberExpression): string | undefined {
  if (node.property.type === 'PrivateIdentifier') return undefined;
  if (!node.computed && node.property.type === 'Identifier') return node.property.name;
  const value = reader.eval(node.property);
  if (value.kind === 'text') return value.text.includes(HOLE) ? undefined : value.text;
  return value.kind === 'plain' && typeof value.value === 'number' ? String(value.value) : undefined;
}

/** The value of a property. `isCalled`: it is about to be called. */
export function member(
  reader: ScriptReader,
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
      return hostMember(reader, owner.path, name, node, isCalled);
    case 'global':
      // Asking something of a global needs it.
      reader.use(owner.name, node);
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
      return !isCalled ? foundMember(reader, owner.selector, name, node) : owner;
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
function foundMember(reader: ScriptReader, selector: string, name: string, node: Node): Value {
  needElement(reader, selector, node);
  if (name === 'parentNode' || name === 'parentElement') return { kind: 'host', path: 'document.body' };
  return name === 'style' || name === 'classList' || name === 'dataset'
    ? { kind: 'found', selector, isList: false }
    : UNKNOWN;
}

/** A script looks for an element, and does something with it. */
export function needElement(reader: ScriptReader, selector: string, node: Node, isGuarded = false): void {
  if (/^(script|head|body|html|meta|link|title|base)\b[^#.]*$/i.test(selector) || selector.includes(HOLE))
    return;
  const id = /^#([\w-]+)$/.exec(selector)?.[1];
  reader.record.need({
    selector,
    id,
    when: reader.when,
    isGuarded: isGuarded || reader.tries > 0 || (reader.guards.get(elementGuard(selector)) ?? 0) > 0,
    own: undefined,
    range: reader.range(node),
    sure: 'certain',
  });
}

const LOCATION: Readonly<{ [name: string]: Value }> = {
  protocol: text('https:'),
  href: text(`https://${HOLE}`, 'likely'),
};

function hostMember(reader: ScriptReader, path: string, name: string, node: Node, isCalled: boolean): Value {
  if (path === '' || isWindowName(path)) {
    if (isWindowName(name)) return { kind: 'host', path: '' };
    const made = reader.record.globals.get(name);
    if (made) return made;
    if (isBrowserName(name)) return { kind: 'host', path: name };
    // Reading a missing property gives undefined; calling it stops the script.
    if (isCalled) reader.use(name, node);
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
export function setMember(reader: ScriptReader, node: MemberExpression, value: Value, from?: Node): void {
  if (node.object.type === 'Super') return;
  const owner = reader.eval(node.object);
  const name = memberName(reader, node);
  if (isHandler(name)) {
    reader.callLater(value);
    if (owner.kind === 'host') return;
  }
  switch (owner.kind) {
    case 'host':
      if ((owner.path === '' || isWindowName(owner.path)) && name !== undefined) {
        if (!isBrowserName(name)) reader.define(name, value, node, from);
        return;
      }
      if (owner.path === 'document' && name === 'cookie') storeCookie(reader, value, node);
      else if (STORAGE.has(owner.path)) store(reader, owner.path, name, node);
      return;
    case 'global':
      reader.use(owner.name, node);
      return;
    case 'object':
    case 'function':
      if (name !== undefined) owner.properties.set(name, value);
      return;
    case 'element':
      setElementProperty(reader, owner, node, name, value);
      return;
    case 'found':
      needElement(reader, owner.selector, node);
      if (name === 'innerHTML' || name === 'outerHTML') {
        const html = asText(value);
        reader.record.write({
          html: html.text,
          sure: html.sure,
          range: reader.range(node),
          when: reader.when,
          isDocumentWrite: false,
        });
      }
      return;
    default:
  }
}

function isHandler(name: string | undefined): boolean {
  return name !== undefined && /^on[a-z]+$/.test(name);
}

function setElementProperty(
  reader: ScriptReader,
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
  setProperty(reader, element, name, value, reader.range(node));
}

/** A property or an attribute of an element that the code has made. */
export function setProperty(
  reader: ScriptReader,
  element: Extract<Value, { kind: 'element' }>,
  name: string,
  value: Value,
  range: Range,
): void {
  element.properties.set(name, value);
  if (name === 'style') readInlineStyle(element, asText(value).text);
  if (name === 'src' || name === 'href') {
    element.addressRange = range;
    // An image is fetched without being placed.
    if (element.tag === 'img') placeElement(reader, element);
  }
  if (name === 'id' && value.kind === 'text')
    reader.record.makes.push({ id: value.text, by: 'script', range, sure: value.sure });
  if (name === 'innerHTML') {
    const html = asText(value);
    reader.record.write({
      html: html.text,
      sure: html.sure,
      range,
      when: reader.when,
      isDocumentWrite: false,
    });
  }
}

function storeCookie(reader: ScriptReader, value: Value, node: Node): void {
  const name = /^\s*([^=;\s]+)\s*=/.exec(asText(value).text)?.[1];
  reader.record.storage.push({
    where: 'cookie',
    key: name === undefined || name.includes(HOLE) ? undefined : name,
    range: reader.range(node),
    sure: 'certain',
  });
}

export function store(reader: ScriptReader, where: string, key: string | undefined, node: Node): void {
  reader.record.storage.push({
    where: where === 'sessionStorage' ? 'sessionStorage' : 'localStorage',
    key: key?.includes(HOLE) === true ? undefined : key,
    range: reader.range(node),
    sure: 'certain',
  });
}
