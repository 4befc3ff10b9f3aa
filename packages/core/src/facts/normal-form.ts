import type { Node } from 'acorn';
import generate from 'css-tree/generator';
import parseCss from 'css-tree/parser';
import { tokenize } from 'css-tree/tokenizer';
import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { parseBounded } from '../bounds/parse-script.js';
import { shallowTree } from '../bounds/shallow-tree.js';
import { MAX_MARKUP_DEPTH, TooMuchError, tooMuchOf } from '../bounds/too-much.js';
import { attribute, isJsonType, isScriptType } from './markup/script-type.js';

/**
 * A text that is equal only for pieces of code that do the same: the tree of the markup with attributes in order, the
 * syntax trees of its scripts, the grammar of its style sheets. How tags, quotes and entities are written makes no
 * difference. Wherever it is not certain that two ways of writing mean the same, they are told apart: to miss a double
 * costs a finding, to see one that is none may switch off what a site needs.
 */
export function normalForm(code: string): string {
  const trimmed = code.trim();
  if (!trimmed.startsWith('<')) return scriptForm(trimmed) ?? trimmed;
  try {
    const { childNodes } = parseFragment(trimmed, { scriptingEnabled: true, treeAdapter: shallowTree() });
    return topForm(childNodes, { depth: 0, noScript: false });
  } catch (error) {
    if (tooMuchOf(error) === undefined) throw error;
    return trimmed;
  }
}

interface Place {
  readonly depth: number;
  /** Within a noscript, as browsers without scripts see it. */
  readonly noScript: boolean;
}

/** Elements that are never drawn: white space between them is not, either. */
const UNDRAWN = new Set('script style link meta template base title noscript'.split(' '));

/** Nodes beside each other on the page itself, where no element of the code's own says how white space is drawn. */
function topForm(nodes: readonly Tree.ChildNode[], place: Place): string {
  const isDrawn = nodes.some((node) =>
    'tagName' in node ? !UNDRAWN.has(node.tagName) : 'value' in node && node.value.trim() !== '',
  );
  return childrenForm(isDrawn ? nodes : nodes.filter((node) => !('value' in node)), place);
}

/** @throws TooMuchError where nodes are nested deeper than browsers nest them */
function childrenForm(nodes: readonly Tree.ChildNode[], place: Place): string {
  if (place.depth > MAX_MARKUP_DEPTH) throw new TooMuchError('nesting');
  return nodes
    .map((node) => nodeForm(node, { ...place, depth: place.depth + 1 }))
    .filter((form) => form !== '')
    .join('\n');
}

/** Comments that something reads: conditional ones, directives of servers and of libraries. */
const DIRECTIVE = /^\s*(?:\[|#|\$|esi\b|\/?(?:ko|wp|fb)\b)/i;

function nodeForm(node: Tree.ChildNode, place: Place): string {
  // White space counts in `pre`, and wherever a style sheet says so.
  if ('value' in node) return JSON.stringify(node.value);
  if ('data' in node) return DIRECTIVE.test(node.data) ? `<!--${node.data}-->` : '';
  if (!('tagName' in node)) return '';
  const attributes = node.attrs
    .map(({ name, value }) => `${name}=${JSON.stringify(attributeForm(name, value))}`)
    .filter((attribute) => attribute !== 'type="text/javascript"')
    .sort();
  const start = `<${[node.tagName, ...attributes].join(' ')}>`;
  const text = node.childNodes.map((child) => ('value' in child ? child.value : '')).join('');
  switch (node.tagName) {
    case 'script':
      return `${start}${scriptElementForm(attribute(node, 'type'), text)}`;
    case 'style':
      return `${start}${styleForm(text)}`;
    case 'noscript':
      // Without scripts a noscript is an element like others (HTML Standard 4.12.2).
      return place.noScript
        ? `${start}${childrenForm(node.childNodes, place)}</>`
        : `${start}${topForm(parseFragment(text, { scriptingEnabled: false }).childNodes, { ...place, noScript: true })}</>`;
    case 'template':
      return `${start}${childrenForm('content' in node ? node.content.childNodes : [], place)}</>`;
    default:
      return `${start}${childrenForm(node.childNodes, place)}</>`;
  }
}

/** A script by its syntax tree, data that is JSON by its values; what reads other data, nobody knows. */
function scriptElementForm(type: string | undefined, text: string): string {
  if (isScriptType(type)) return scriptForm(text) ?? text;
  return (isJsonType(type) ? jsonForm(text) : undefined) ?? text;
}

/** Attributes that hold lists of words, or an address (HTML Standard: "split on ASCII whitespace", "strip"). */
const LISTS = new Set(['class', 'rel']);
const ADDRESSES = new Set(['src', 'href']);

function attributeForm(name: string, value: string): string {
  if (LISTS.has(name)) return value.split(/\s+/).filter(Boolean).join(' ');
  return ADDRESSES.has(name) ? value.trim() : value;
}

/** Brackets and blocks of a style sheet; the parser calls itself for each. */
const MAX_STYLES_DEPTH = 200;

/**
 * A style sheet without what its grammar (CSS Syntax Level 3) does not see: comments, and white space that joins
 * nothing. What the parser does not know, and values of custom properties, which scripts can read, stay as written.
 */
function styleForm(css: string): string {
  if (depthOfStyles(css) > MAX_STYLES_DEPTH) return css;
  const failures: unknown[] = [];
  const tree = parseCss(css, {
    parseCustomProperty: false,
    onParseError: (error) => failures.push(error),
  });
  return failures.length > 0 ? css.trim() : generate(tree, { mode: 'safe' });
}

function depthOfStyles(css: string): number {
  let depth = 0;
  let deepest = 0;
  tokenize(css, (_type, start, end) => {
    const last = css[end - 1];
    if (end - start > 0 && (last === '(' || last === '{' || last === '['))
      deepest = Math.max(deepest, ++depth);
    else if (end - start === 1 && (last === ')' || last === '}' || last === ']')) depth--;
  });
  return deepest;
}

function jsonForm(text: string): string | undefined {
  try {
    return JSON.stringify(JSON.parse(text));
  } catch {
    return undefined;
  }
}

/** The syntax tree without places and without how values are written. */
function scriptForm(code: string): string | undefined {
  for (const sourceType of ['script', 'module'] as const) {
    try {
      const tree = parseBounded(code, { sourceType });
      return JSON.stringify(tree, function (this: unknown, key, value: unknown) {
        if (key === 'start' || key === 'end' || key === 'sourceType') return undefined;
        if (key === 'raw' && isLiteral(this)) return undefined;
        if (key === 'body' && Array.isArray(value))
          return (value as Node[]).filter(({ type }) => type !== 'EmptyStatement');
        return typeof value === 'bigint' ? `${value}n` : simpler(value);
      });
    } catch {
      // Perhaps it is a module.
    }
  }
  return undefined;
}

/** How a literal is written is nothing to anybody; how a template is, its tag can see. */
function isLiteral(node: unknown): boolean {
  return typeof node === 'object' && node !== null && 'type' in node && node.type === 'Literal';
}

/** Statements that mean the same with a block around them as without; a declaration would end with the block. */
const PLAIN_STATEMENT =
  /^(?:Expression|Return|Throw|If|For|ForIn|ForOf|While|DoWhile|Try|Switch|Break|Continue)Statement$/;

/** Minifiers write `!0` for true and `!1` for false, `void 0` for undefined, and `a['b']` may be `a.b`. */
function simpler(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || !('type' in value)) return value;
  const node = value as { type: string; [key: string]: unknown };
  if (node.type === 'UnaryExpression') {
    const argument = node['argument'] as { type: string; value?: unknown };
    if (node['operator'] === '!' && argument.type === 'Literal' && typeof argument.value === 'number')
      return { type: 'Literal', value: !argument.value };
    if (node['operator'] === 'void' && argument.type === 'Literal')
      return { type: 'Identifier', name: 'undefined' };
  }
  if (node.type === 'MemberExpression' && node['computed'] === true) {
    const property = node['property'] as { type: string; value?: unknown };
    if (
      property.type === 'Literal' &&
      typeof property.value === 'string' &&
      /^[A-Za-z_$][\w$]*$/.test(property.value)
    )
      return { ...node, computed: false, property: { type: 'Identifier', name: property.value } };
  }
  const only =
    node.type === 'BlockStatement' && (node['body'] as { type: string }[]).length === 1
      ? (node['body'] as { type: string }[])[0]!
      : undefined;
  return only && PLAIN_STATEMENT.test(only.type) ? simpler(only) : node;
}
