import type { Range } from '../facts/index.js';

/** One attribute of a start tag (HTML Standard 13.1.2.3). */
const ATTRIBUTE = /([^\s"'<>/=]+)(?:\s*=\s*(?:"[^"]*"|'[^']*'|[^\s"'=<>`]+))?/g;

/**
 * Code without an attribute of one of its start tags.
 *
 * @param range - where the tag stands
 * @returns undefined where the tag has no such attribute
 */
export function withoutAttribute(code: string, range: Range, name: string): string | undefined {
  const tag = code.slice(range.start, range.end);
  for (const match of tag.matchAll(ATTRIBUTE)) {
    if (match[1]!.toLowerCase() !== name) continue;
    const start = range.start + match.index;
    return code.slice(0, start).trimEnd() + code.slice(start + match[0].length);
  }
  return undefined;
}

/** A file as people call it: the last step of its address, or its host. */
export function fileName(address: string): string {
  const path = address.split(/[?#]/, 1)[0]!;
  return path.split('/').findLast(Boolean) ?? address;
}
