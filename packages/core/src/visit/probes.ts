import { parseFragment } from 'parse5';
import type { Facts } from '../facts/index.js';
import { attributeOf, isElement, pageTree } from '../html/index.js';

/** Elements by which a browser is asked where a part's own markup is. */
const NOT_SHOWN = new Set(['script', 'style', 'link', 'meta', 'noscript', 'template', 'base', 'title']);
const MAX_PROBES = 12;

/**
 * Selectors of the elements that a part brings or fills: its own top-level markup, and those that its script makes by id.
 *
 * @param code - as it goes into the page
 */
export function probesOf(code: string, facts: Pick<Facts, 'makes' | 'needs'>): readonly string[] {
  const own = parseFragment(code, { treeAdapter: pageTree }).childNodes.flatMap((node) => {
    if (!isElement(node) || NOT_SHOWN.has(node.tagName)) return [];
    const id = attributeOf(node, 'id');
    if (id !== undefined && id !== '') return [byAttribute(node.tagName, 'id', id)];
    for (const name of ['src', 'class', 'data-id', 'name']) {
      const value = attributeOf(node, name);
      if (value !== undefined && value !== '') return [byAttribute(node.tagName, name, value)];
    }
    return [];
  });
  const made = facts.makes.map(({ id }) => byAttribute('*', 'id', id));
  return [...new Set([...own, ...made])].slice(0, MAX_PROBES);
}

/** A value is a string of CSS (Syntax Level 3, 9.3): quotes, line ends and backslashes are escaped. */
function byAttribute(tag: string, name: string, value: string): string {
  const escaped = value.replace(/["\\\n\r\f]/g, (sign) => `\\${sign.charCodeAt(0).toString(16)} `);
  return `${tag}[${name}="${escaped}"]`;
}
