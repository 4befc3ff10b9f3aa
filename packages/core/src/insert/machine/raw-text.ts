import { insertElement } from './insert-element.js';
import { rulesOutFrameset } from './places.js';
import { TokenizerState, Mode, type Machine } from './state.js';

/** Elements whose text is not markup (HTML Standard 13.2.6.2). */

/** The current start tag opens an element of RCDATA or raw text. */
export function enterText(m: Machine): void {
  enter(m, TokenizerState.RawText);
}

export function enterScript(m: Machine): void {
  enter(m, TokenizerState.Script);
  m.scriptLevel = 0;
  m.scriptDashes = 0;
}

/** From here on all is text. */
export function enterPlaintext(m: Machine): void {
  m.tokenizerState = TokenizerState.Plaintext;
  if (m.framesetOk) rulesOutFrameset(m, m.base + m.tagStart);
}

function enter(m: Machine, tokenizerState: number): void {
  insertElement(m);
  m.textReturn = m.mode;
  m.mode = Mode.Text;
  m.tokenizerState = tokenizerState;
  m.rawName = m.tag;
}
