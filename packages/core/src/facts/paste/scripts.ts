import { tooMuchOf } from '../../bounds/too-much.js';
import { parseScript } from '../script/read-script.js';
import type { PasteRule } from './rule.js';

interface ScriptText {
  /** Where the text between the tags stands. */
  readonly start: number;
  readonly end: number;
  /** Where its tags stand. */
  readonly open: number;
  readonly close: number;
}

// An attribute may hold a `<`, but a paste of which it matters does not: so each tag is looked through once.
const OPEN = /<script\b(?:[^<>"']|"[^"<]*"|'[^'<]*')*>/gi;
const CLOSE = /<\/script\s*>/gi;

/** Scripts as browsers tell them: the first end tag ends one (HTML Standard 13.2.5.4). */
function scriptsOf(code: string): ScriptText[] {
  const found: ScriptText[] = [];
  OPEN.lastIndex = 0;
  for (let match = OPEN.exec(code); match && found.length < MAX_SCRIPTS; match = OPEN.exec(code)) {
    const start = match.index + match[0].length;
    CLOSE.lastIndex = start;
    const close = CLOSE.exec(code);
    if (!close) break;
    found.push({ start, end: close.index, open: match.index, close: close.index + close[0].length });
    OPEN.lastIndex = close.index + close[0].length;
  }
  return found;
}

/** A paste of more scripts than these is no paste of a person's. */
const MAX_SCRIPTS = 100;

function canBeRead(code: string): boolean {
  try {
    return !('message' in parseScript(code, false)) || !('message' in parseScript(code, true));
  } catch (error) {
    if (tooMuchOf(error) === undefined) throw error;
    return false;
  }
}

const ESCAPED = /&(?:lt|gt|amp|quot|#0?39|apos);/;
const PLAIN: Readonly<Record<string, string>> = {
  ...{ lt: '<', gt: '>', amp: '&', quot: '"', '#39': "'", '#039': "'", apos: "'" },
};

const unescaped = (text: string): string =>
  text.replace(/&(lt|gt|quot|#0?39|apos|amp);/g, (_, name: string) => PLAIN[name]!);

/** Scripts that cannot be read because their `<`, `>` and `&` were turned into references. */
function escapedScripts(code: string): ScriptText[] {
  if (!ESCAPED.test(code)) return [];
  return scriptsOf(code).filter(({ start, end }) => {
    const text = code.slice(start, end);
    return ESCAPED.test(text) && !canBeRead(text) && canBeRead(unescaped(text));
  });
}

export const ESCAPED_IN_SCRIPT: PasteRule = {
  kind: 'escaped-in-script',
  find(code) {
    const [first] = escapedScripts(code);
    if (!first) return undefined;
    const at = first.start + code.slice(first.start, first.end).search(ESCAPED);
    return { start: at, end: at + 4 };
  },
  repair: (code) =>
    replaceRanges(
      code,
      escapedScripts(code).map(({ start, end }) => [start, end, unescaped(code.slice(start, end))]),
    ),
};

function doubledScript(code: string): ScriptText | undefined {
  if (!/<script\b[^<>]*>\s*<script\b/i.test(code)) return undefined;
  return scriptsOf(code).find(({ start }) => /^\s*<script\b/i.test(code.slice(start, start + LOOKED_AT)));
}

/** What stands at the start of a script's text. */
const LOOKED_AT = 200;

/** A script tag around code that has its own: `<script><script src="…"></script></script>`. */
export const DOUBLED_TAGS: PasteRule = {
  kind: 'doubled-tags',
  find(code) {
    const doubled = doubledScript(code);
    return doubled && { start: doubled.open, end: doubled.start };
  },
  repair(code) {
    const doubled = doubledScript(code);
    if (!doubled) return code;
    const after = code.slice(doubled.close);
    const second = /<\/script\s*>/i.exec(after);
    // The last end tag of all is the outer one's, unless another script begins before it.
    const isOuter = second && !/<script\b/i.test(after.slice(0, second.index));
    const rest = isOuter
      ? after.slice(0, second.index) + after.slice(second.index + second[0].length)
      : after;
    return code.slice(0, doubled.open) + code.slice(doubled.start, doubled.close).trim() + rest;
  },
};

/** So many end tags are tried for the one that is meant. */
const MAX_TRIED = 8;

/** A script whose text ends at an end tag that stands in a string: the whole of it, up to the end tag that is meant. */
function cutScript(code: string): { start: number; end: number; first: number } | undefined {
  const scripts = scriptsOf(code);
  // Only a script that ends too early leaves an end tag over.
  if ((code.match(CLOSE) ?? []).length <= scripts.length) return undefined;
  for (const { start, end, close } of scripts) {
    if (canBeRead(code.slice(start, end))) continue;
    CLOSE.lastIndex = close;
    for (let tried = 0; tried < MAX_TRIED; tried++) {
      const next = CLOSE.exec(code);
      if (!next) break;
      if (canBeRead(withoutEndTags(code.slice(start, next.index))))
        return { start, end: next.index, first: end };
    }
  }
  return undefined;
}

const withoutEndTags = (text: string): string => text.replace(/<\/(script)/gi, '<\\/$1');

export const END_TAG_IN_STRING: PasteRule = {
  kind: 'end-tag-in-string',
  find(code) {
    const cut = cutScript(code);
    return cut && { start: cut.first, end: cut.first + '</script>'.length };
  },
  repair(code) {
    const cut = cutScript(code);
    return cut
      ? replaceRanges(code, [[cut.start, cut.end, withoutEndTags(code.slice(cut.start, cut.end))]])
      : code;
  },
};

/** Characters that nobody sees: zero-width spaces and joiners, direction marks, a byte order mark inside, soft hyphens. */
const INVISIBLE = /[\u200b\u200e\u200f\u2060\ufeff\u00ad\u202a-\u202e]/;

const withoutInvisibles = (text: string): string => text.replace(new RegExp(INVISIBLE, 'g'), '');

/** Where they stand in a tag, or in a script that cannot be read with them: in strings and texts they may be meant. */
function invisibleAt(code: string): number | undefined {
  const outside = replaceRanges(
    code,
    scriptsOf(code).map(({ start, end }) => [start, end, ' '.repeat(end - start)]),
  );
  for (const tag of outside.matchAll(/<[a-z][^<>]*>/gi)) {
    const at = INVISIBLE.exec(tag[0])?.index;
    if (at !== undefined) return tag.index + at;
  }
  for (const { start, end } of scriptsOf(code)) {
    const text = code.slice(start, end);
    const at = INVISIBLE.exec(text)?.index;
    if (at !== undefined && !canBeRead(text) && canBeRead(withoutInvisibles(text))) return start + at;
  }
  return undefined;
}

export const INVISIBLES: PasteRule = {
  kind: 'invisible',
  find(code) {
    const at = INVISIBLE.test(code) ? invisibleAt(code) : undefined;
    return at === undefined ? undefined : { start: at, end: at + 1 };
  },
  repair: withoutInvisibles,
};

function replaceRanges(code: string, ranges: readonly (readonly [number, number, string])[]): string {
  let result = '';
  let at = 0;
  for (const [start, end, text] of ranges) {
    result += code.slice(at, start) + text;
    at = end;
  }
  return result + code.slice(at);
}
