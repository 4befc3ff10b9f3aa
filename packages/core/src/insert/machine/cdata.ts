import { rulesOutFrameset } from './places.js';
import { reconstruct } from './reconstruct.js';
import { TokenizerState, type Machine } from './state.js';

const GT = 0x3e;
const BRACKET = 0x5d;

/** Encodings whose trail bytes can look like ASCII letters and brackets, by how lead and trail bytes pair. */
export const enum Pairs {
  None,
  ShiftJis,
  /** GBK, GB18030, Big5 and EUC-KR */
  Wide,
}

/** Reads a CDATA section in foreign content to its `]]>` (HTML Standard 13.2.5.69–71). */
export function skipCdata(m: Machine): boolean {
  const end = m.end;
  const from = m.at;
  let brackets = 0;
  let i = from;
  while (i < end) {
    const byte = m.window.get(i);
    if (m.pairs !== Pairs.None && byte >= 0x81 && isLead(m.pairs, byte)) {
      if (i + 1 >= end && !m.ended) break;
      if (i + 1 < end && isTrail(m.window.get(i + 1))) i++;
      brackets = 0;
    } else if (byte === BRACKET) brackets++;
    else if (byte === GT && brackets >= 2) {
      sectionText(m, from, i - 2);
      m.tokenizerState = TokenizerState.Data;
      m.commentAt = -1;
      m.at = i + 1;
      return true;
    } else brackets = 0;
    i++;
  }
  if (m.ended) {
    m.at = end;
    return false;
  }
  const kept = brackets > 2 ? 2 : brackets;
  sectionText(m, from, i - kept);
  m.at = i - kept;
  return false;
}

/** Text of a section counts as any text does, but has no character references. */
function sectionText(m: Machine, from: number, to: number): void {
  if (to > from && !m.open.isForeign()) reconstruct(m);
  if (!m.framesetOk) return;
  let i = m.window.skipSpace(from, to);
  while (i < to && m.window.get(i) === 0) i = m.window.skipSpace(i + 1, to);
  if (i < to) rulesOutFrameset(m, m.base + i);
}

function isLead(pairs: number, byte: number): boolean {
  if (pairs === Pairs.ShiftJis) return byte <= 0x9f || (byte >= 0xe0 && byte <= 0xfc);
  return byte <= 0xfe;
}

function isTrail(byte: number): boolean {
  return (byte >= 0x40 && byte <= 0x7e) || (byte >= 0x80 && byte <= 0xfe);
}
