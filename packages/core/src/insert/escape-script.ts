import type { Comment, Node, Token } from 'acorn';
import { parseBounded } from '../bounds/parse-script.js';
import { hasLacking, isEscaped, replaceLacking, type Escape, type IsLacking } from './lacking.js';

const SCRIPT_TYPE = /^$|^module$|^(?:text|application)\/(?:x-)?(?:java|ecma)script\b/i;
const JSON_TYPE = /^importmap$|^speculationrules$|[/+]json\b/i;

/** How the text of a script element with this type is escaped. */
export function escapeScript(type: string | undefined): Escape {
  const kind = (type ?? '').trim();
  if (SCRIPT_TYPE.test(kind))
    return (text, isLacking) => escapeJavaScript(text, isLacking, kind === 'module');
  if (JSON_TYPE.test(kind)) return (text, isLacking) => replaceLacking(text, isLacking, codeUnits);
  // What reads other data, and what an escape would mean to it, is not known.
  return (text, isLacking) => (hasLacking(text, isLacking) ? undefined : text);
}

function escapeJavaScript(text: string, isLacking: IsLacking, isModule: boolean): string | undefined {
  if (!hasLacking(text, isLacking)) return text;
  const tokens: Token[] = [];
  const comments: Comment[] = [];
  let program: Node;
  try {
    program = parseBounded(text, {
      sourceType: isModule ? 'module' : 'script',
      allowHashBang: true,
      onToken: tokens,
      onComment: comments,
    });
  } catch {
    // A script that does not parse does not run; only its length could matter to anybody.
    return replaceLacking(text, isLacking, (character, at) => inString(text, character, at));
  }
  if (hasRawTemplate(program, text, isLacking)) return undefined;
  const isIn = (
    ranges: readonly { start: number; end: number }[],
    at: number,
  ): { start: number } | undefined => {
    let low = 0;
    let high = ranges.length - 1;
    while (low <= high) {
      const middle = (low + high) >> 1;
      const range = ranges[middle]!;
      if (at < range.start) high = middle - 1;
      else if (at >= range.end) low = middle + 1;
      else return range;
    }
    return undefined;
  };
  return replaceLacking(text, isLacking, (character, at) => {
    if (isIn(comments, at)) return '?';
    const token = isIn(tokens, at) as Token | undefined;
    if (!token) return character === '\u2028' || character === '\u2029' ? '\n' : ' ';
    const { label } = token.type;
    return label === 'name' || label === 'privateId'
      ? `\\u{${character.codePointAt(0)!.toString(16)}}`
      : inString(text, character, at);
  });
}

/** In strings, templates and regular expressions: the code units; a backslash before the character is made use of. */
function inString(text: string, character: string, at: number): string {
  const units = codeUnits(character);
  if (!isEscaped(text, at)) return units;
  return character === '\u2028' || character === '\u2029' ? '\n' : units.slice(1);
}

function codeUnits(character: string): string {
  return Array.from(
    { length: character.length },
    (_, i) => `\\u${character.charCodeAt(i).toString(16).padStart(4, '0')}`,
  ).join('');
}

/** A tagged template hands its raw text to a function, which would see the escapes. */
function hasRawTemplate(node: Node, text: string, isLacking: IsLacking): boolean {
  if (node.type === 'TaggedTemplateExpression' && hasLacking(text.slice(node.start, node.end), isLacking))
    return true;
  return Object.values(node).some((value: unknown) =>
    Array.isArray(value)
      ? value.some((item) => isNode(item) && hasRawTemplate(item, text, isLacking))
      : isNode(value) && hasRawTemplate(value, text, isLacking),
  );
}

function isNode(value: unknown): value is Node {
  return typeof value === 'object' && value !== null && 'type' in value && 'start' in value;
}
