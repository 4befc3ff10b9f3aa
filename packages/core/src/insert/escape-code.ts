import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { escapeScript } from './escape-script.js';
import { hasLacking, isEscaped, replaceLacking, type Escape, type IsLacking } from './lacking.js';

interface Range {
  readonly from: number;
  readonly to: number;
  readonly escape: Escape;
}

/**
 * Says the characters that an encoding lacks in another way, by where they stand: character references in text and
 * attributes, `\u` in scripts and JSON, `\` in styles. Comments lose them: nothing reads a comment.
 */
export function escapeCode(code: string, isLacking: IsLacking): string | undefined {
  const ranges: Range[] = [];
  collect(parseFragment(code, { sourceCodeLocationInfo: true }), ranges);
  ranges.sort((a, b) => a.from - b.from);
  let out = '';
  let at = 0;
  for (const { from, to, escape } of ranges) {
    if (from < at) continue;
    const between = code.slice(at, from);
    const inside = escape(code.slice(from, to), isLacking);
    if (inside === undefined || hasLacking(between, isLacking)) return undefined;
    out += between + inside;
    at = to;
  }
  const rest = code.slice(at);
  return hasLacking(rest, isLacking) ? undefined : out + rest;
}

/** Elements whose text has neither references nor any other escape. */
const RAW = new Set(['xmp', 'iframe', 'noembed', 'noframes', 'plaintext']);

function collect(node: Tree.Node, ranges: Range[], parent?: Tree.Element): void {
  const location = 'sourceCodeLocation' in node ? node.sourceCodeLocation : undefined;
  if ('attrs' in node) {
    for (const place of Object.values(node.sourceCodeLocation?.attrs ?? {}))
      ranges.push({ from: place.startOffset, to: place.endOffset, escape: escapeAttribute });
  } else if ('value' in node && location)
    ranges.push({ from: location.startOffset, to: location.endOffset, escape: escapeFor(parent) });
  else if ('data' in node && location)
    ranges.push({ from: location.startOffset, to: location.endOffset, escape: blank });
  if ('childNodes' in node)
    for (const child of node.childNodes) collect(child, ranges, 'attrs' in node ? node : undefined);
  if ('content' in node) collect(node.content, ranges);
}

function escapeFor(parent: Tree.Element | undefined): Escape {
  if (parent?.tagName === 'script')
    return escapeScript(parent.attrs.find(({ name }) => name === 'type')?.value);
  if (parent?.tagName === 'style') return escapeStyle;
  return parent && RAW.has(parent.tagName) ? refuse : escapeText;
}

const refuse: Escape = (text, isLacking) => (hasLacking(text, isLacking) ? undefined : text);

const escapeText: Escape = (text, isLacking) =>
  replaceLacking(text, isLacking, (character) => `&#${character.codePointAt(0)!};`);

/** An attribute's name cannot be escaped, its value can. */
const escapeAttribute: Escape = (text, isLacking) => {
  const equals = text.indexOf('=', 1);
  if (equals < 0 || hasLacking(text.slice(0, equals), isLacking)) return refuse(text, isLacking);
  return text.slice(0, equals) + escapeText(text.slice(equals), isLacking)!;
};

const escapeStyle: Escape = (text, isLacking) =>
  replaceLacking(text, isLacking, (character, at) => {
    const escape = `${character.codePointAt(0)!.toString(16)} `;
    return isEscaped(text, at) ? escape : `\\${escape}`;
  });

const blank: Escape = (text, isLacking) => replaceLacking(text, isLacking, () => '?');
