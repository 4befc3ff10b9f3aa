import { BANG, DASH, GT, LT, SLASH, isLetter, isSpace, startsWithIgnoringCase } from './bytes.js';

/**
 * Where a script's text stands: 0 script data, 1 escaped (after `<!--`), 2 double escaped (a `<script` inside it).
 * `dashes` counts the dashes right before the next byte, 2 at most.
 */
export interface ScriptEscape {
  level: 0 | 1 | 2;
  dashes: number;
}

/** Bytes of `<script` or `</script` and the byte that ends the name. */
const LONGEST_LOOKAHEAD = '</script'.length + 1;

/**
 * Reads script text (HTML Standard 13.2.5.4 and 13.2.5.15–31) from `at` on.
 *
 * @param escape - the state; updated in place so that a later call goes on
 * @param isEndTag - whether `</script` with a delimiter begins at an offset
 * @returns where reading stopped and whether the end tag begins there
 */
export function scanScript(
  bytes: Uint8Array,
  at: number,
  ended: boolean,
  escape: ScriptEscape,
  isEndTag: (at: number) => 'yes' | 'no' | 'wait',
): { at: number; closed: boolean } {
  let i = at;
  while (i < bytes.length) {
    if (escape.level === 0) {
      i = bytes.indexOf(LT, i);
      if (i < 0) return { at: bytes.length, closed: false };
      if (!ended && bytes.length - i < 4 && bytes[i + 1] !== SLASH && couldBe(bytes, i, '<!--'))
        return { at: i, closed: false };
      if (bytes[i + 1] === BANG && bytes[i + 2] === DASH && bytes[i + 3] === DASH) {
        escape.level = 1;
        escape.dashes = 2;
        i += 4;
        continue;
      }
      const verdict = isEndTag(i);
      if (verdict !== 'no') return { at: i, closed: verdict === 'yes' };
      i++;
      continue;
    }
    const byte = bytes[i]!;
    if (byte === DASH) escape.dashes = Math.min(2, escape.dashes + 1);
    else if (byte === GT && escape.dashes === 2) {
      escape.level = 0;
      escape.dashes = 0;
    } else {
      if (byte === LT) {
        if (
          !ended &&
          bytes.length - i < LONGEST_LOOKAHEAD &&
          (couldBe(bytes, i, '<script') || couldBe(bytes, i, '</script'))
        ) {
          return { at: i, closed: false };
        }
        if (escape.level === 1) {
          if (isEndTag(i) === 'yes') return { at: i, closed: true };
          if (isScriptName(bytes, i + 1)) escape.level = 2;
        } else if (bytes[i + 1] === SLASH && isScriptName(bytes, i + 2)) escape.level = 1;
      }
      escape.dashes = 0;
    }
    i++;
  }
  return { at: i, closed: false };
}

/** `script` and a byte that ends a name (13.2.5.26, 13.2.5.31). */
function isScriptName(bytes: Uint8Array, at: number): boolean {
  if (!isLetter(bytes[at]) || !startsWithIgnoringCase(bytes, at, 'script')) return false;
  const after = bytes[at + 'script'.length];
  return isSpace(after) || after === SLASH || after === GT;
}

/** Whether the bytes that are left could be the beginning of `text`. */
function couldBe(bytes: Uint8Array, at: number, text: string): boolean {
  return startsWithIgnoringCase(bytes, at, text.slice(0, bytes.length - at));
}
