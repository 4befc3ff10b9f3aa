import { parse as parseJs, type Node } from 'acorn';
import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { normalAddress } from '../facts/index.js';

/**
 * A text that is equal for two pieces of code exactly when they say the same: the tree of the markup with attributes in
 * order, and the syntax trees of its scripts. White space, quotes, entities, comments and minified names of no other
 * scope make no difference but for those names themselves.
 */
export function normalForm(code: string): string {
  const trimmed = code.trim();
  if (!trimmed.startsWith('<')) return scriptForm(trimmed) ?? spaced(trimmed);
  const fragment = parseFragment(trimmed, { scriptingEnabled: true });
  return fragment.childNodes.map(nodeForm).filter(Boolean).join('\n');
}

function nodeForm(node: Tree.Node): string {
  if ('value' in node) return spaced(node.value);
  if (!('tagName' in node)) return '';
  const attributes = node.attrs
    .map(
      ({ name, value }) =>
        `${name}=${JSON.stringify(isAddress(name) ? normalAddress(value) : spaced(value))}`,
    )
    .filter((attribute) => attribute !== 'type="text/javascript"')
    .sort();
  const start = `<${[node.tagName, ...attributes].join(' ')}>`;
  const text = node.childNodes.map((child) => ('value' in child ? child.value : '')).join('');
  switch (node.tagName) {
    case 'script':
      return `${start}${scriptForm(text) ?? jsonForm(text) ?? spaced(text)}`;
    case 'style':
      return `${start}${styleForm(text)}`;
    case 'noscript':
      return `${start}${normalForm(text)}`;
    default:
      return `${start}${node.childNodes.map(nodeForm).filter(Boolean).join('\n')}</>`;
  }
}

function isAddress(name: string): boolean {
  return name === 'src' || name === 'href';
}

function spaced(text: string): string {
  return text.replace(/\s+/g, ' ').trim();
}

function styleForm(css: string): string {
  return css
    .replace(/\/\*[^]*?\*\//g, '')
    .replace(/\s+/g, ' ')
    .replace(/\s*([{}:;,>])\s*/g, '$1')
    .replace(/;}/g, '}')
    .trim();
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
      return JSON.stringify(parseJs(code, { ecmaVersion: 'latest', sourceType }), (key, value: unknown) => {
        if (key === 'start' || key === 'end' || key === 'raw' || key === 'sourceType') return undefined;
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

/** Minifiers write `!0` for true and `!1` for false, `void 0` for undefined, and `a['b']` may be `a.b`. */
function simpler(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || !('type' in value)) return value;
  const node = value as { type: string; [key: string]: unknown };
  if (node.type === 'ParenthesizedExpression') return simpler(node['expression']);
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
  if (node.type === 'BlockStatement' && (node['body'] as unknown[]).length === 1)
    return (node['body'] as unknown[])[0];
  return node;
}
