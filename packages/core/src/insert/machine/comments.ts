import { TokenizerState, type Machine } from './state.js';

const DASH = 0x2d;
const GT = 0x3e;

/** Reads a comment to its end, `-->` or `--!>` (HTML Standard 13.2.5.43–52). */
export function skipComment(m: Machine): boolean {
  const end = m.end;
  let dash = m.window.find(DASH, m.at, end);
  while (dash + 2 < end) {
    if (m.window.get(dash + 1) === DASH) {
      const after = m.window.get(dash + 2);
      if (after === GT) return close(m, dash + 3);
      if (after === 0x21 && dash + 3 < end && m.window.get(dash + 3) === GT) return close(m, dash + 4);
    }
    dash = m.window.find(DASH, dash + 1, end);
  }
  // The longest unfinished end is `--!`.
  if (m.ended) m.at = end;
  else if (end - 3 > m.at) m.at = end - 3;
  return false;
}

/** Reads to the next `>` (13.2.5.41). */
export function skipBogusComment(m: Machine): boolean {
  const gt = m.window.find(GT, m.at, m.end);
  if (gt < m.end) return close(m, gt + 1);
  m.at = m.end;
  return false;
}

function close(m: Machine, at: number): boolean {
  m.tokenizerState = TokenizerState.Data;
  m.commentAt = -1;
  m.at = at;
  return true;
}
