import { Is } from './classes.js';
import { skipCdata } from './cdata.js';
import { skipBogusComment, skipComment } from './comments.js';
import { Ns } from './open-elements.js';
import { checkLookahead, endPage, endSwallowed } from './places.js';
import { NEWLINE_LOOKAHEAD, dropsNewline, startAnchor, tellRefused } from './anchors.js';
import { afterToken, beforeToken, endAll } from './ends.js';
import { Wants } from './selection.js';
import { passForeign, passOrdinary } from './pass.js';
import { isPassed, isPassing, isPassingForeign } from './fast-path.js';
import { skipRawText } from './raw-text-end.js';
import { skipScript } from './script-data.js';
import { Query, Token, TokenizerState, MAX_TAG_LENGTH, Mode, Status, type Machine } from './state.js';
import { Tag } from './tags.js';
import { endTag, startTag } from './tree.js';
import { text } from './text.js';
import { readTag } from './tag.js';

/**
 * The tokenizer of the HTML Standard (13.2.5) over bytes, reduced to what decides where things lie: the same tokens at
 * the same places, but no text, no comment data and no attributes that nobody asks for.
 *
 * Goes on from where it stopped to the end of the bytes in the window.
 * @returns a `Status`
 */
export function run(m: Machine): number {
  while (next(m)) {
    if (m.hasBailedOut) return Status.BailOut;
    if (m.overflow()) return Status.GivenUp;
  }
  if (m.hasBailedOut) return Status.BailOut;
  if (m.overflow()) return Status.GivenUp;
  if (m.query !== Query.None) return Status.Query;
  checkLookahead(m, m.base + m.at);
  if (m.ended) end(m);
  if (m.selection.refusedCount > 0) tellRefused(m);
  return Status.More;
}

/** `step`, and what it means for the elements that parts ask for. */
function next(m: Machine): boolean {
  if (!m.selection.isOn) return step(m);
  const firstEvent = m.eventCount;
  if (m.endCount > 0) beforeToken(m);
  const isMore = step(m);
  if (m.endCount > 0) afterToken(m, firstEvent);
  if (m.selection.refusedCount > 0) tellRefused(m);
  return isMore;
}

/** Reads one token, or what there is of it. @returns whether there may be more to read */
function step(m: Machine): boolean {
  switch (m.tokenizerState) {
    case TokenizerState.Data:
      return data(m);
    case TokenizerState.Tag:
      return finishStartTag(m);
    case TokenizerState.Comment:
      return skipComment(m);
    case TokenizerState.BogusComment:
      return skipBogusComment(m);
    case TokenizerState.Cdata:
      return skipCdata(m);
    case TokenizerState.RawText:
      return skipRawText(m);
    case TokenizerState.Script:
      return skipScript(m);
    default:
      m.at = m.end;
      return false;
  }
}

function data(m: Machine): boolean {
  const end = m.end;
  while (m.mayUseFastPath && isPassing(m)) {
    const from = m.at;
    const isRead = passOrdinary(m);
    // What was read of an unfinished tag was of one that is passed by now.
    if (m.at !== from) m.tagRead = 0;
    if (!isRead) break;
    processRead(m);
    if (m.tokenizerState !== TokenizerState.Data || m.open.overflow) return true;
  }
  if (m.isFastPath && isPassingForeign(m)) {
    const from = m.at;
    passForeign(m);
    if (m.at !== from) m.tagRead = 0;
  }
  const at = m.at;
  if (at >= end) return false;
  if (m.window.get(at) !== 0x3c) {
    const lt = m.window.find(0x3c, at, end);
    if (lt < end && isQuiet(m)) {
      m.at = lt;
      return true;
    }
    m.at = text(m, at, lt, lt < end || m.ended);
    return m.at === lt && lt < end;
  }
  if (at + 1 >= end) return lastText(m, at);
  const next = m.window.get(at + 1);
  if (isLetter(next)) return openStartTag(m);
  if (next === 0x2f) {
    if (at + 2 >= end) {
      if (m.ended) m.openEndAt = m.base + at;
      return lastText(m, at);
    }
    const first = m.window.get(at + 2);
    if (isLetter(first)) return openEndTag(m);
    if (first === 0x3e) {
      m.at = at + 3;
      return true;
    }
    return openComment(m, TokenizerState.BogusComment, 2);
  }
  if (next === 0x21) return markupDeclaration(m);
  if (next === 0x3f) return openComment(m, TokenizerState.BogusComment, 1);
  m.at = text(m, at, at + 1, true);
  return true;
}

/** Whether text means nothing here. */
function isQuiet(m: Machine): boolean {
  return (
    m.mode >= Mode.InBody &&
    m.mode < Mode.AfterBody &&
    m.mode !== Mode.InColumnGroup &&
    !m.framesetOk &&
    !m.formatting.needsReconstruction()
  );
}

/** `<` and `</` at the very end are text; in the middle of the page they need the next chunk. */
function lastText(m: Machine, at: number): boolean {
  if (m.ended) m.at = text(m, at, m.end, true);
  return false;
}

function isLetter(byte: number): boolean {
  const lower = byte | 0x20;
  return lower >= 0x61 && lower <= 0x7a;
}

function openComment(m: Machine, tokenizerState: number, length: number): boolean {
  m.tokenizerState = tokenizerState;
  m.commentAt = m.base + m.at;
  m.at += length;
  return true;
}

/** 13.2.5.42: `<!--`, `<!doctype`, `<![CDATA[`, or a bogus comment. */
function markupDeclaration(m: Machine): boolean {
  const at = m.at;
  const available = m.end - at;
  const second = available > 2 ? m.window.get(at + 2) : -1;
  if (second === -1) return m.ended ? openComment(m, TokenizerState.BogusComment, 2) : false;
  if (second === 0x2d) {
    if (available < 4) return m.ended ? openComment(m, TokenizerState.BogusComment, 2) : false;
    if (m.window.get(at + 3) === 0x2d) return openRealComment(m);
  }
  if (second === 0x5b && m.open.currentNs() !== Ns.Html) {
    const matched = matchText(m, at + 2, '[CDATA[', false);
    if (matched === 0 && !m.ended) return false;
    if (matched > 0) return openComment(m, TokenizerState.Cdata, 9);
  }
  if ((second | 0x20) === 0x64 && m.mode === Mode.Initial) return openDoctype(m);
  return openComment(m, TokenizerState.BogusComment, 2);
}

/** `<!-->` and `<!--->` are whole comments. */
function openRealComment(m: Machine): boolean {
  const at = m.at;
  const third = at + 4 < m.end ? m.window.get(at + 4) : -1;
  const fourth = at + 5 < m.end ? m.window.get(at + 5) : -1;
  if (!m.ended && (third === -1 || (third === 0x2d && fourth === -1))) return false;
  if (third === 0x3e) {
    m.at = at + 5;
    return true;
  }
  if (third === 0x2d && fourth === 0x3e) {
    m.at = at + 6;
    return true;
  }
  return openComment(m, TokenizerState.Comment, 4);
}

/** The only doctype that counts is the first token of the page. It ends at its first `>`, even inside its quotes. */
function openDoctype(m: Machine): boolean {
  const matched = matchText(m, m.at + 2, 'doctype', true);
  if (matched < 0) return openComment(m, TokenizerState.BogusComment, 2);
  if (matched === 0) return m.ended ? openComment(m, TokenizerState.BogusComment, 2) : false;
  const close = m.window.find(0x3e, m.at + 9, m.end);
  if (close >= m.end) {
    if (m.ended || m.end - m.at > MAX_TAG_LENGTH) return openComment(m, TokenizerState.BogusComment, 2);
    return false;
  }
  m.tagStart = m.at;
  m.tagEnd = close + 1;
  if (matchText(m, m.at + 9, ' html>', true) > 0) {
    m.quirks = false;
    m.mode = Mode.BeforeHtml;
    m.at = m.tagEnd;
    return true;
  }
  m.query = Query.Doctype;
  m.tokenizerState = TokenizerState.Tag;
  return false;
}

/** 1: the text is there; 0: its beginning is, and the bytes end; -1: it is not. */
function matchText(m: Machine, from: number, wanted: string, foldCase: boolean): number {
  for (let i = 0; i < wanted.length; i++) {
    if (from + i >= m.end) return 0;
    const byte = m.window.get(from + i);
    if ((foldCase ? byte | 0x20 : byte) !== wanted.charCodeAt(i)) return -1;
  }
  return 1;
}

function openStartTag(m: Machine): boolean {
  if (!readTag(m, m.at + 1)) return tooLong(m);
  if (m.selection.isOn) {
    if (!m.ended && dropsNewline(m.tag) && m.end - m.tagEnd < NEWLINE_LOOKAHEAD) return false;
    if (m.isWanted || (m.tag >= Tag.Known && (m.selection.wants & Wants.UnknownNames) !== 0)) {
      m.query = Query.Tag;
      m.tokenizerState = TokenizerState.Tag;
      return false;
    }
    m.selection.takeName(m.tag);
  }
  processStartTag(m);
  return true;
}

function openEndTag(m: Machine): boolean {
  if (!readTag(m, m.at + 2)) return tooLong(m);
  m.at = m.tagEnd;
  m.token = Token.EndTag;
  if (!isPassed(m)) endTag(m);
  return true;
}

function tooLong(m: Machine): boolean {
  if (m.end - m.at > MAX_TAG_LENGTH) m.names.overflow = true;
  return false;
}

/** A tag of the skeleton was read on the way. */
function processRead(m: Machine): void {
  m.selfClosing = false;
  m.valueSlash = -1;
  m.tagRead = 0;
  m.at = m.tagEnd;
  if (m.isEndTag) endTag(m);
  else startTag(m);
}

/** Goes on with the tag that a question was asked about. */
function finishStartTag(m: Machine): boolean {
  m.tokenizerState = TokenizerState.Data;
  const asked = m.query;
  m.query = Query.None;
  if (asked === Query.Doctype) {
    m.quirks = m.answer === 1;
    m.mode = Mode.BeforeHtml;
    m.at = m.tagEnd;
    return true;
  }
  processStartTag(m);
  return true;
}

function processStartTag(m: Machine): void {
  m.at = m.tagEnd;
  m.token = Token.StartTag;
  if (isPassed(m)) return;
  m.isFostering = false;
  m.fostered = false;
  if (m.selection.isOn && m.selection.mayFind()) startAnchor(m);
  else startTag(m);
}

/** The page has ended: what had no event gets one, or is left out. */
function end(m: Machine): void {
  const position = m.base + m.at;
  endAll(m, m.openEndAt >= 0 ? m.openEndAt : position);
  switch (m.tokenizerState) {
    case TokenizerState.Data:
      // An unfinished tag at `at` is dropped by the parser: the page ends before it.
      // White space in a table would become another text without the `</` after it.
      if (m.openEndAt >= 0 && m.open.currentIs(Is.TableContext)) endSwallowed(m);
      else endPage(m, m.openEndAt >= 0 ? m.openEndAt : position, false);
      break;
    case TokenizerState.Comment:
    case TokenizerState.BogusComment:
      if (m.commentAt >= 0) endPage(m, m.commentAt, true);
      else endSwallowed(m);
      break;
    default:
      endSwallowed(m);
  }
  m.commentAt = -1;
}
