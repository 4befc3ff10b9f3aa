import {
  BANG,
  DASH,
  DOUBLE_QUOTE,
  EQUALS,
  GT,
  LT,
  QUESTION,
  SINGLE_QUOTE,
  SLASH,
  concatBytes,
  isLetter,
  isSpace,
  lowerCaseText,
  startsWithIgnoringCase,
} from './bytes.js';
import { readAttributes } from './attributes.js';
import { scanScript, type ScriptEscape } from './script-data.js';

/** What the tree needs to know of a token. Offsets are bytes from the start of the page; `end` is exclusive. */
export interface Token {
  /** `other` is a comment, a doctype or an ignored `</>`: present, but never the cause of anything. */
  type: 'text' | 'start' | 'end' | 'other';
  start: number;
  end: number;
  /** Lower-case tag name; empty for text and other. */
  name: string;
  selfClosing: boolean;
}

/** States in which the tokenizer can stop between two chunks. Names as in HTML Standard 13.2.5, several joined. */
type State = 'data' | 'tag' | 'comment' | 'bogus-comment' | 'cdata' | 'raw-text' | 'script' | 'plaintext';

/** The part of a tag that is being read (13.2.5.8 and 13.2.5.32–40). */
const enum TagState {
  Name,
  BeforeAttributeName,
  AttributeName,
  AfterAttributeName,
  BeforeValue,
  DoubleQuoted,
  SingleQuoted,
  Unquoted,
  AfterQuoted,
  SelfClosing,
}

const EMPTY = new Uint8Array(0);

/**
 * The tokenizer of the HTML Standard (13.2.5) over bytes, reduced to what decides where things lie: it finds the
 * same tokens at the same places, but keeps no text, no comment data and no attributes that nobody asks for.
 *
 * It can be fed in any chunks. Between chunks it holds back at most one unfinished tag or a few bytes of lookahead.
 */
export class Tokenizer {
  /** Set by the tree: `<![CDATA[` opens a section only where the adjusted current node is foreign. */
  cdataAllowed = false;
  #buffer: Uint8Array = EMPTY;
  /** Absolute offset of `#buffer[0]`. */
  #base = 0;
  /** The next byte to read, in `#buffer`. */
  #at = 0;
  #ended = false;
  #state: State = 'data';
  #rawName = '';
  #endsInEndTagOpen = false;
  #scriptEscape: ScriptEscape = { level: 0, dashes: 0 };
  #tagState = TagState.Name;
  /** How far the tag at `#at` has been read, in `#buffer`. */
  #tagAt = 0;
  #tokenStart = 0;
  readonly #token: Token = { type: 'text', start: 0, end: 0, name: '', selfClosing: false };

  /** The bytes that can be addressed with `slice`, from `base` on. */
  get buffer(): Uint8Array {
    return this.#buffer;
  }

  get base(): number {
    return this.#base;
  }

  /** Absolute offset up to which everything is decided; bytes from here on are held back. */
  get position(): number {
    return this.#base + this.#at;
  }

  /** At the end of the page: whether it broke off inside a construct that swallows what follows. */
  get unfinished(): boolean {
    return this.#state !== 'data' || this.#endsInEndTagOpen;
  }

  /** Adds bytes. Bytes before `position` are forgotten. */
  push(chunk: Uint8Array): void {
    const held = this.#buffer.subarray(this.#at);
    this.#base += this.#at;
    this.#tagAt -= this.#at;
    this.#at = 0;
    this.#buffer = held.length === 0 ? chunk : concatBytes([held, chunk]);
  }

  /** Says that no more bytes come; `next` then returns what is left. */
  finish(): void {
    this.#ended = true;
  }

  /** Skips a byte order mark. Call before the first `next`, with three bytes at hand or at the end. */
  skip(count: number): void {
    this.#at += count;
  }

  /** Called by the tree after the start tag of an element whose text is not markup. */
  enterRawText(name: string): void {
    if (name === 'plaintext') this.#state = 'plaintext';
    else if (name === 'script') {
      this.#state = 'script';
      this.#scriptEscape = { level: 0, dashes: 0 };
    } else this.#state = 'raw-text';
    this.#rawName = name;
  }

  /** The attributes of the start tag that `next` returned last. */
  attributes(): Map<string, string> {
    const { start, end, name } = this.#token;
    return readAttributes(this.#buffer, start - this.#base + 1 + name.length, end - this.#base);
  }

  /** The next token, or undefined when more bytes are needed or the page has ended. The object is reused. */
  next(): Token | undefined {
    for (;;) {
      switch (this.#state) {
        case 'data': {
          const found = this.#data();
          if (found === 'wait') return undefined;
          if (found === 'token') return this.#token;
          break;
        }
        case 'tag':
          return this.#tag() ? this.#token : undefined;
        case 'comment':
          return this.#comment() ? this.#token : undefined;
        case 'bogus-comment':
          return this.#until(GT, EMPTY) ? this.#token : undefined;
        case 'cdata':
          return this.#until(GT, CDATA_END) ? this.#token : undefined;
        case 'raw-text':
          if (!this.#rawText()) return undefined;
          break;
        case 'script':
          if (!this.#script()) return undefined;
          break;
        case 'plaintext':
          this.#at = this.#buffer.length;
          return undefined;
      }
    }
  }

  #emit(type: Token['type'], start: number, end: number): void {
    const token = this.#token;
    token.type = type;
    token.start = this.#base + start;
    token.end = this.#base + end;
    token.name = '';
    token.selfClosing = false;
    this.#at = end;
  }

  #data(): 'wait' | 'token' | 'again' {
    const bytes = this.#buffer;
    const at = this.#at;
    if (at >= bytes.length) return 'wait';
    const lt = bytes[at] === LT ? at : bytes.indexOf(LT, at);
    if (lt !== at) {
      this.#emit('text', at, lt < 0 ? bytes.length : lt);
      return 'token';
    }
    const available = bytes.length - at;
    const next = bytes[at + 1];
    if (next === undefined) return this.#textOrWait(1);
    if (isLetter(next)) return this.#openTag(at);
    if (next === SLASH) {
      if (available < 3) return this.#textOrWait(2);
      if (isLetter(bytes[at + 2])) return this.#openTag(at);
      if (bytes[at + 2] === GT) {
        this.#emit('other', at, at + 3);
        return 'token';
      }
      return this.#openSkipped('bogus-comment', 2);
    }
    if (next === QUESTION) return this.#openSkipped('bogus-comment', 1);
    if (next === BANG) return this.#markupDeclaration(at, available);
    this.#emit('text', at, at + 1);
    return 'token';
  }

  /** `<`, `</` at the very end are text; in the middle of the page they need the next chunk. */
  #textOrWait(length: number): 'wait' | 'token' {
    if (!this.#ended) return 'wait';
    // A tag put after `</` would become part of a comment.
    this.#endsInEndTagOpen = length === 2;
    this.#emit('text', this.#at, this.#at + length);
    return 'token';
  }

  #openTag(at: number): 'again' {
    this.#state = 'tag';
    this.#tagState = TagState.Name;
    this.#tagAt = at + 1;
    return 'again';
  }

  #openSkipped(state: State, length: number): 'again' {
    this.#tokenStart = this.#base + this.#at;
    this.#state = state;
    this.#at += length;
    return 'again';
  }

  /** 13.2.5.42: `<!--`, `<!doctype`, `<![CDATA[`, or a bogus comment. */
  #markupDeclaration(at: number, available: number): 'wait' | 'again' {
    const bytes = this.#buffer;
    const second = bytes[at + 2];
    if (second === DASH || second === undefined) {
      if (bytes[at + 3] === DASH) {
        // `<!-->` and `<!--->` are whole comments.
        const [third, fourth] = [bytes[at + 4], bytes[at + 5]];
        const undecided = third === undefined || (third === DASH && fourth === undefined);
        if (undecided && !this.#ended) return 'wait';
        if (third === GT) return this.#closeShortComment(at, 5);
        if (third === DASH && fourth === GT) return this.#closeShortComment(at, 6);
        return this.#openSkipped('comment', 4);
      }
      if (available < 4 && !this.#ended) return 'wait';
    }
    if (second === 0x5b && this.cdataAllowed) {
      if (available < CDATA_START.length && !this.#ended) return 'wait';
      if (CDATA_START.every((byte, i) => bytes[at + i] === byte))
        return this.#openSkipped('cdata', CDATA_START.length);
    }
    // A doctype, too, ends at its first `>`, even inside its quotes (13.2.5.59, .60).
    return this.#openSkipped('bogus-comment', 2);
  }

  #closeShortComment(at: number, length: number): 'again' {
    // Nothing depends on it, so no token is made.
    this.#at = at + length;
    return 'again';
  }

  #comment(): boolean {
    const bytes = this.#buffer;
    let dash = bytes.indexOf(DASH, this.#at);
    while (dash >= 0) {
      if (bytes[dash + 1] === DASH) {
        if (bytes[dash + 2] === GT) return this.#closeSkipped(dash + 3);
        if (bytes[dash + 2] === BANG && bytes[dash + 3] === GT) return this.#closeSkipped(dash + 4);
      }
      dash = bytes.indexOf(DASH, dash + 1);
    }
    // The longest unfinished end is `--!`.
    this.#at = this.#ended ? bytes.length : Math.max(this.#at, bytes.length - 3);
    return false;
  }

  /** Skips to the byte `last` that follows the bytes `before`. */
  #until(last: number, before: Uint8Array): boolean {
    const bytes = this.#buffer;
    let found = bytes.indexOf(last, this.#at);
    while (found >= 0) {
      const start = found - before.length;
      if (start >= this.#at && before.every((byte, i) => bytes[start + i] === byte))
        return this.#closeSkipped(found + 1);
      found = bytes.indexOf(last, found + 1);
    }
    this.#at = this.#ended ? bytes.length : Math.max(this.#at, bytes.length - before.length);
    return false;
  }

  #closeSkipped(end: number): true {
    this.#state = 'data';
    this.#emit('other', end, end);
    this.#token.start = this.#tokenStart;
    return true;
  }

  #tag(): boolean {
    const bytes = this.#buffer;
    let state = this.#tagState;
    let i = this.#tagAt;
    for (; i < bytes.length; i++) {
      const byte = bytes[i]!;
      switch (state) {
        case TagState.DoubleQuoted:
        case TagState.SingleQuoted: {
          const close = bytes.indexOf(state === TagState.DoubleQuoted ? DOUBLE_QUOTE : SINGLE_QUOTE, i);
          if (close < 0) i = bytes.length - 1;
          else {
            i = close;
            state = TagState.AfterQuoted;
          }
          continue;
        }
        case TagState.BeforeValue:
          if (byte === DOUBLE_QUOTE) state = TagState.DoubleQuoted;
          else if (byte === SINGLE_QUOTE) state = TagState.SingleQuoted;
          else if (byte === GT) return this.#closeTag(i, false);
          else if (!isSpace(byte)) state = TagState.Unquoted;
          continue;
        case TagState.Unquoted:
          if (byte === GT) return this.#closeTag(i, false);
          if (isSpace(byte)) state = TagState.BeforeAttributeName;
          continue;
      }
      if (byte === GT) return this.#closeTag(i, state === TagState.SelfClosing);
      if (byte === SLASH) state = TagState.SelfClosing;
      else if (isSpace(byte)) {
        if (state === TagState.AttributeName) state = TagState.AfterAttributeName;
        else if (state !== TagState.AfterAttributeName) state = TagState.BeforeAttributeName;
      } else if (
        byte === EQUALS &&
        (state === TagState.AttributeName || state === TagState.AfterAttributeName)
      ) {
        state = TagState.BeforeValue;
      } else if (state !== TagState.Name) state = TagState.AttributeName;
    }
    this.#tagState = state;
    this.#tagAt = i;
    return false;
  }

  #closeTag(gt: number, selfClosing: boolean): true {
    const bytes = this.#buffer;
    const start = this.#at;
    const isEnd = bytes[start + 1] === SLASH;
    const nameStart = start + (isEnd ? 2 : 1);
    let nameEnd = nameStart;
    while (nameEnd < gt && !isSpace(bytes[nameEnd]) && bytes[nameEnd] !== SLASH) nameEnd++;
    this.#state = 'data';
    this.#emit(isEnd ? 'end' : 'start', start, gt + 1);
    this.#token.name = lowerCaseText(bytes, nameStart, nameEnd);
    this.#token.selfClosing = selfClosing;
    return true;
  }

  /** Moves to the end tag that closes the raw text. True when one was found; the tag is read next. */
  #rawText(): boolean {
    const bytes = this.#buffer;
    let lt = bytes.indexOf(LT, this.#at);
    while (lt >= 0) {
      const verdict = this.isEndTagAt(lt, this.#rawName);
      if (verdict !== 'no') {
        this.#at = lt;
        if (verdict === 'wait') return false;
        this.#openTag(lt);
        return true;
      }
      lt = bytes.indexOf(LT, lt + 1);
    }
    this.#at = bytes.length;
    return false;
  }

  #script(): boolean {
    const found = scanScript(this.#buffer, this.#at, this.#ended, this.#scriptEscape, (at) =>
      this.isEndTagAt(at, 'script'),
    );
    this.#at = found.at;
    if (!found.closed) return false;
    this.#openTag(found.at);
    return true;
  }

  /** Whether an appropriate end tag (13.2.5, "appropriate end tag token") begins at `lt`. */
  private isEndTagAt(lt: number, name: string): 'yes' | 'no' | 'wait' {
    const bytes = this.#buffer;
    const needed = name.length + 3;
    if (bytes.length - lt >= needed) {
      const after = bytes[lt + needed - 1];
      const delimited = isSpace(after) || after === SLASH || after === GT;
      return delimited && bytes[lt + 1] === SLASH && startsWithIgnoringCase(bytes, lt + 2, name)
        ? 'yes'
        : 'no';
    }
    if (this.#ended) return 'no';
    const have = `</${name}`.slice(0, bytes.length - lt);
    return startsWithIgnoringCase(bytes, lt, have) ? 'wait' : 'no';
  }
}

const CDATA_START = new TextEncoder().encode('<![CDATA[');
const CDATA_END = new TextEncoder().encode(']]');
