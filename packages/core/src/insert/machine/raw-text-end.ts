import { headElementEnded } from './places.js';
import { readTag } from './tag.js';
import { Token, TokenizerState, type Machine } from './state.js';

/** What stands at a `<` in text that only its own end tag can end. */
export const enum Found {
  Nothing,
  /** The end tag, complete: it was read. */
  End,
  /** More bytes are needed to tell. */
  Wait,
}

/** Reads raw text or RCDATA to its end tag (HTML Standard 13.2.5.2, .3 and .9–14). */
export function skipRawText(m: Machine): boolean {
  m.at = m.window.find(0x3c, m.at, m.end);
  while (m.at < m.end) {
    const found = endTagAt(m, m.at);
    if (found === Found.End) return closeText(m);
    if (found === Found.Wait) return false;
    m.at = m.window.find(0x3c, m.at + 1, m.end);
  }
  return false;
}

/** Looks for the "appropriate end tag" at `at`, which is a `<` and the machine's position. */
export function endTagAt(m: Machine, at: number): number {
  const end = m.end;
  const wait = m.ended ? Found.Nothing : Found.Wait;
  if (at + 1 >= end) return wait;
  if (m.window.get(at + 1) !== 0x2f) return Found.Nothing;
  const matched = m.names.match(m.window, at + 2, end, m.rawName);
  if (matched < 0) return Found.Nothing;
  const nameEnd = at + 2 + m.names.length(m.rawName);
  if (nameEnd >= end) return wait;
  const after = m.window.get(nameEnd);
  const isEnd =
    after === 0x3e ||
    after === 0x2f ||
    after === 0x20 ||
    after === 0x0a ||
    after === 0x0d ||
    after === 0x09 ||
    after === 0x0c;
  if (!isEnd) return Found.Nothing;
  // From here on it is a tag, however far it goes; at the end of the page the text is unfinished.
  return readTag(m, at + 2) ? Found.End : Found.Wait;
}

/** The end tag that was read closes the element. */
export function closeText(m: Machine): boolean {
  m.at = m.tagEnd;
  m.token = Token.EndTag;
  m.tokenizerState = TokenizerState.Data;
  m.open.pop();
  m.mode = m.textReturn;
  headElementEnded(m, m.base + m.tagEnd);
  return true;
}
