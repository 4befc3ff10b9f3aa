import type { Node } from 'acorn';
import generate from 'css-tree/generator';
import parseCss from 'css-tree/parser';
import { tokenize } from 'css-tree/tokenizer';
import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { parseBounded } from '../bounds/parse-script.js';
import { DEEPEST_MARKUP } from '../bounds/too-much.js';

/**
 * A text that is equal only for pieces of code that do the same: the tree of the markup with attributes in order, the
 * syntax trees of its scripts, the grammar of its style sheets. How tags, quotes and entities are written makes no
 * difference. Wherever it is not certain that two ways of writing mean the same, they are told apart: to miss a double
 * costs a finding, to see one that is none may switch off what a site needs.
 */
export function normalForm(code: string): string {
  const trimmed = code.trim();
  if (!trimmed.startsWith('<')) return scriptForm(trimmed) ?? trimmed;
  return childrenForm(parseFragment(trimmed, { scriptingEnabled: true }).childNodes, 0);
}

/** Elements that are never drawn: white space between them is not, either. */
const UNDRAWN = new Set('script style link meta template base title'.split(' '));

function childrenForm(nodes: readonly Tree.ChildNode[], depth: number, noScript = false): string {
  // Deeper than browsers go; such code is told apart by being written alike.
  if (depth > DEEPEST_MARKUP) return '…';
  const shown = nodes.filter((node) => node.nodeName !== '#comment');
  const isDrawn = shown.some(
    (node) => !('tagName' in node ? UNDRAWN.has(node.tagName) : 'value' in node && node.value.trim() === ''),
  );
  return shown
    .filter((node) => isDrawn || 'tagName' in node)
    .map((node) => nodeForm(node, depth, noScript))
    .join('\n');
}

function nodeForm(node: Tree.ChildNode, depth: number, noScript: boolean): string {
  // White space counts in `pre`, and where a style sheet says so.
  if ('value' in node) return JSON.stringify(node.value);
  if (!('tagName' in node)) return '';
  const attributes = node.attrs
    .map(({ name, value }) => `${name}=${JSON.stringify(attributeForm(name, value))}`)
    .filter((attribute) => attribute !== 'type="text/javascript"')
    .sort();
  const start = `<${[node.tagName, ...attributes].join(' ')}>`;
  const text = node.childNodes.map((child) => ('value' in child ? child.value : '')).join('');
  switch (node.tagName) {
    case 'script':
      return `${start}${scriptForm(text) ?? jsonForm(text) ?? text.trim()}`;
    case 'style':
      return `${start}${styleForm(text)}`;
    case 'noscript':
      // Without scripts a noscript is an element like others (HTML Standard 4.12.2).
      return `${start}${childrenForm(noScript ? node.childNodes : parseFragment(text, { scriptingEnabled: false }).childNodes, depth + 1, true)}</>`;
    case 'template':
      return `${start}${childrenForm('content' in node ? node.content.childNodes : [], depth + 1, noScript)}</>`;
    default:
      return `${start}${childrenForm(node.childNodes, depth + 1, noScript)}</>`;
  }
}

/** Attributes that hold lists of words, or an address (HTML Standard: "split on ASCII whitespace", "strip"). */
const LISTS = new Set(['class', 'rel']);
const ADDRESSES = new Set(['src', 'href']);

function attributeForm(name: string, value: string): string {
  if (LISTS.has(name)) return value.split(/\s+/).filter(Boolean).join(' ');
  return ADDRESSES.has(name) ? value.trim() : value;
}

/** Brackets and blocks of a style sheet; the parser calls itself for each. */
const DEEPEST_STYLES = 200;

/**
 * A style sheet without what its grammar (CSS Syntax Level 3) does not see: comments, and white space that joins
 * nothing. What the parser does not know, and values of custom properties, which scripts can read, stay as written.
 */
function styleForm(css: string): string {
  if (depthOfStyles(css) > DEEPEST_STYLES) return css;
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
