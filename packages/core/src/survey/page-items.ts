import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { hostOf, isScriptType, normalForm, type FactsCache } from '../facts/index.js';
import { attributeOf, attributePlaces, isElement, isText, textOf } from '../html/index.js';
import { memoizeByText } from '../memoize/by-text.js';
import {
  isVolatile,
  scriptBlanks,
  stableAttribute,
  withBlanks,
  type Blank,
  type PageWords,
} from './stable-code.js';
import type { ItemKind, ItemPlace, ItemState, PageItem } from './types.js';
import { isUnseenImage } from './visible-bounds.js';

/** A page with more is read so far. */
export const MAX_ITEMS = 2_000;
/** Code of one item that is looked into; longer code is known by its beginning and its length. */
const MAX_CODE = 512 * 1024;

export interface ItemContext {
  /** The page's text. */
  readonly text: string;
  readonly memory: FactsCache;
  /** Texts that are this page's own. */
  readonly own: ReadonlySet<string>;
  /** Whole address against which the page's addresses count; undefined for code that stands in no page. */
  readonly base?: string;
  readonly placeOf: (offset: number) => ItemPlace;
}

interface Place {
  readonly state: ItemState;
  /** Where the markup that is read begins in the page's text. */
  readonly base: number;
}

type Found = Omit<PageItem, 'code' | 'form' | 'key' | 'place'> & { readonly element: Tree.Element };

/** Everything below some nodes that loads, runs or frames something, or that one of the scripts looks for. */
export function readItems(nodes: readonly Tree.ChildNode[], context: ItemContext): PageItem[] {
  const found: Found[] = [];
  const withId: Found[] = [];
  collect(nodes, { state: 'active', base: 0 }, found, withId);
  const items = found.map((one) => toItem(one, context));
  const needed = neededIds(items, context.memory);
  const filled = withId.filter(({ element }) => needed.has(attributeOf(element, 'id')!));
  if (filled.length === 0) return items;
  return [...items, ...filled.map((one) => toItem(one, context))]
    .sort((a, b) => a.range.start - b.range.start)
    .slice(0, MAX_ITEMS);
}

/** Without calling itself, but for markup within markup. */
function collect(nodes: readonly Tree.ChildNode[], place: Place, found: Found[], withId: Found[]): void {
  const waiting: Tree.ChildNode[] = [...nodes].reverse();
  for (let node = waiting.pop(); node && found.length < MAX_ITEMS; node = waiting.pop()) {
    if (node.nodeName === '#comment' && 'data' in node) collectComment(node, place, found, withId);
    if (!isElement(node)) continue;
    const location = node.sourceCodeLocation;
    const kind = location ? kindOf(node, place.state) : undefined;
    if (location && kind !== undefined)
      found.push({
        kind,
        state: place.state === 'active' ? ownState(node) : place.state,
        element: node,
        range: { start: location.startOffset + place.base, end: location.endOffset + place.base },
      });
    else if (location && isForScript(node) && place.state === 'active')
      withId.push({
        kind: 'element',
        state: 'active',
        element: node,
        range: { start: location.startOffset + place.base, end: location.endOffset + place.base },
      });
    const inside = insideOf(node, place);
    if (inside) collect(inside.nodes, inside.place, found, withId);
    else for (let i = node.childNodes.length - 1; i >= 0; i--) waiting.push(node.childNodes[i]!);
  }
}

/** Markup that the parser takes for text, or for something apart. */
function insideOf(
  element: Tree.Element,
  place: Place,
): { nodes: readonly Tree.ChildNode[]; place: Place } | undefined {
  if (element.tagName === 'template' && 'content' in element) {
    const { content } = element as Tree.Template;
    return { nodes: content.childNodes, place: { ...place, state: 'template' } };
  }
  if (element.tagName !== 'noscript' || element.childNodes.some(isElement)) return undefined;
  const start = element.childNodes[0]?.sourceCodeLocation?.startOffset;
  if (start === undefined || place.state === 'noscript') return { nodes: [], place };
  const state = place.state === 'active' ? 'noscript' : place.state;
  const { childNodes } = parseFragment(textOf(element), FRAGMENT);
  return { nodes: childNodes, place: { state, base: place.base + start } };
}

const FRAGMENT = { sourceCodeLocationInfo: true, scriptingEnabled: false } as const;
const COMMENTED = /<(?:script|iframe|img|link)\b/i;
/** `<!--[if IE]>`: old browsers read on, all others see a comment. */
const CONDITIONAL = /^\[if\b/i;

function collectComment(node: Tree.CommentNode, place: Place, found: Found[], withId: Found[]): void {
  const start = node.sourceCodeLocation?.startOffset;
  if (place.state !== 'active' || start === undefined || !COMMENTED.test(node.data)) return;
  const state = CONDITIONAL.test(node.data) ? 'conditional-comment' : 'comment';
  const { childNodes } = parseFragment(node.data, FRAGMENT);
  collect(childNodes, { state, base: place.base + start + '<!--'.length }, found, withId);
}

function kindOf(element: Tree.Element, state: ItemState): ItemKind | undefined {
  switch (element.tagName) {
    case 'script':
      return isData(attributeOf(element, 'type')) ? 'data' : 'script';
    case 'style':
      return 'style';
    case 'link':
      return /(?:^|\s)stylesheet(?:\s|$)/i.test(attributeOf(element, 'rel') ?? '') ? 'style' : undefined;
    case 'iframe':
    case 'frame':
    case 'embed':
    case 'object':
      return 'frame';
    case 'img': {
      const isElsewhere = hostOf(attributeOf(element, 'src') ?? '') !== undefined;
      return isElsewhere && (state === 'noscript' || isUnseenImage(element)) ? 'pixel' : undefined;
    }
    default:
      return undefined;
  }
}

function isData(type: string | undefined): boolean {
  return type !== undefined && /json\s*$|^\s*(?:importmap|speculationrules)\s*$/i.test(type);
}

/** A type that is no script's: code that waits for something else to let it run. */
function ownState(element: Tree.Element): ItemState {
  const isInert =
    element.tagName === 'script' &&
    !isScriptType(attributeOf(element, 'type')) &&
    !isData(attributeOf(element, 'type'));
  return isInert ? 'inert-type' : 'active';
}

/** An empty element with an id, for a script to fill. */
function isForScript(element: Tree.Element): boolean {
  return (
    attributeOf(element, 'id') !== undefined &&
    element.childNodes.every((child) => isText(child) && child.value.trim() === '')
  );
}

function neededIds(items: readonly PageItem[], memory: FactsCache): ReadonlySet<string> {
  const scripts = items.filter(({ kind, state }) => kind === 'script' && state === 'active');
  return new Set(scripts.flatMap(({ code }) => memory.read(code).facts.needs.flatMap(({ id }) => id ?? [])));
}

function toItem({ element, ...found }: Found, context: ItemContext): PageItem {
  const { start, end } = found.range;
  const code = context.text.slice(start, end);
  const place = context.placeOf(start);
  if (found.kind === 'data') {
    // What a page tells machines is another text on each.
    const name = `data ${attributeOf(element, 'type')!.trim().toLowerCase()} ${dataTypes(textOf(element))}`;
    return { ...found, place, code, form: digest(name), key: digest(name) };
  }
  const { form, key } = digestsOf(stableText(element, code, context));
  const item = { ...found, place, code, form, key: digest(`${found.kind} ${key}`) };
  return found.state === 'inert-type' ? { ...item, asScript: withoutType(code) } : item;
}

/** The code of an element without its type. */
function withoutType(code: string): string {
  const type = attributePlaces(code).get('type');
  return type ? withBlanks(code, [{ ...type, by: '' }]) : code;
}

function dataTypes(json: string): string {
  const types = [...json.slice(0, MAX_CODE).matchAll(/"@type"\s*:\s*"([^"]{1,80})"/g)].map(
    ([, type]) => type!,
  );
  return [...new Set(types)].sort().join(' ');
}

/** The code without what differs from page to page. */
function stableText(element: Tree.Element, code: string, context: ItemContext): string {
  if (code.length > MAX_CODE) return `${code.slice(0, MAX_CODE)}…${code.length}`;
  const words: PageWords = {
    own: context.own,
    accounts:
      element.tagName === 'script' || element.tagName === 'iframe'
        ? new Set(
            context.memory
              .read(code)
              // A random value under a name like "token" may as well be the page's own.
              .facts.accounts.filter(
                ({ value, confidence }) => confidence === 'certain' || !isVolatile(value),
              )
              .map(({ value }) => value),
          )
        : NONE,
  };
  const blanks: Blank[] = [];
  const attributes = element.attrs.length > 0 ? attributePlaces(code) : undefined;
  for (const { name, value } of element.attrs) {
    const at = attributes?.get(name);
    const stable = stableAttribute(name, fromRoot(name, value, context.base), words);
    if (!at || stable === value) continue;
    blanks.push({ ...at, by: stable === undefined ? '' : `${name}="${escapeQuotes(stable)}"` });
  }
  blanks.sort((a, b) => a.start - b.start);
  if (element.tagName === 'script') {
    // Places of texts count from the markup that they were parsed in.
    const shift = element.sourceCodeLocation!.startOffset;
    const inside = element.childNodes[0]?.sourceCodeLocation?.startOffset;
    if (inside !== undefined)
      for (const blank of scriptBlanks(textOf(element), words))
        blanks.push({
          start: blank.start + inside - shift,
          end: blank.end + inside - shift,
          by: blank.by,
        });
  }
  return withBlanks(code, blanks);
}

const NONE: ReadonlySet<string> = new Set();

const ADDRESSES = new Set(['src', 'href', 'data']);

/** A file that pages of different folders load is one: its address from the root of the site, where it is written from the page. */
function fromRoot(name: string, value: string, base: string | undefined): string {
  const isFromPage = ADDRESSES.has(name) && !/^\s*(?:[/\\#]|[a-z][a-z0-9+.-]*:|$)/i.test(value);
  if (base === undefined || !isFromPage || !URL.canParse(value, base)) return value;
  const { pathname, search, hash } = new URL(value, base);
  return pathname + search + hash;
}

function escapeQuotes(value: string): string {
  return value.replaceAll('&', '&amp;').replaceAll('"', '&quot;');
}

const digestsOf = memoizeByText(5_000, (text): { form: string; key: string } => ({
  form: digest(text),
  key: digest(normalForm(text)),
}));

function digest(text: string): string {
  return bytesToHex(sha256(utf8ToBytes(text))).slice(0, DIGEST_LENGTH);
}

/** Hex digits: 128 bits, by which no two things are taken for one. */
const DIGEST_LENGTH = 32;
