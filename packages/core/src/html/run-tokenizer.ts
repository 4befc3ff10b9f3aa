import {
  InsertionMode,
  type Parser,
  Token,
  Tokenizer,
  TokenizerMode,
  type DefaultTreeAdapterMap,
} from 'parse5';
import { Place } from './place.js';

/** What ends a run: characters with a meaning of their own, and those that the input stream changes (HTML Standard 13.2.3.5). */
const ENDS_TEXT = endsBefore(['\0', '\r', '<', '&']);
const ENDS_VALUE = endsBefore(['\0', '\r', '&', '"', "'"]);
const ENDS_SPACES = new Uint8Array(0x1_00_00).fill(1);
for (const space of ['\t', '\n', '\f', ' ']) ENDS_SPACES[space.charCodeAt(0)] = 0;
/** In these each character is text or ends it. */
const TEXT_STATES = new Set<Tokenizer['state']>([
  TokenizerMode.DATA,
  TokenizerMode.RCDATA,
  TokenizerMode.RAWTEXT,
  TokenizerMode.SCRIPT_DATA,
]);
/** In these words are dropped and spaces kept (13.2.6.4.20 and after): they may not come as one. */
const APART = new Set<InsertionMode>([
  InsertionMode.IN_FRAMESET,
  InsertionMode.AFTER_FRAMESET,
  InsertionMode.AFTER_AFTER_FRAMESET,
]);

/**
 * The parser's tokenizer, which takes text and quoted values in runs instead of character by character, and words with the
 * spaces between them as one token. What comes out is the same tree: wherever the Standard treats spaces in another way
 * than words, it does so only before the first word, but in pages of frames.
 *
 * For a whole document, written at once. Attributes come without their places.
 */
export class RunTokenizer extends Tokenizer {
  private isAttribute = false;

  constructor(private readonly parser: Parser<DefaultTreeAdapterMap>) {
    super(parser.options, parser);
  }

  protected override getCurrentLocation(offset: number): Token.Location | null {
    return this.isAttribute ? null : new Place(this.preprocessor.offset - offset);
  }

  protected override _createAttr(first: string): void {
    this.isAttribute = true;
    super._createAttr(first);
    this.isAttribute = false;
  }

  protected override _emitCodePoint(codePoint: number): void {
    super._emitCodePoint(codePoint);
    // Of the others some wait for more than these characters.
    if (!TEXT_STATES.has(this.state)) return;
    const isWord = this.currentCharacterToken!.type === Token.TokenType.CHARACTER;
    if (isWord && !APART.has(this.parser.insertionMode)) this.runOn(ENDS_TEXT);
    else if (this.currentCharacterToken!.type === Token.TokenType.WHITESPACE_CHARACTER)
      this.runOn(ENDS_SPACES);
  }

  protected override _stateAttributeValueDoubleQuoted(codePoint: number): void {
    const { state } = this;
    super._stateAttributeValueDoubleQuoted(codePoint);
    if (this.state === state) this.runOn(ENDS_VALUE);
  }

  protected override _stateAttributeValueSingleQuoted(codePoint: number): void {
    const { state } = this;
    super._stateAttributeValueSingleQuoted(codePoint);
    if (this.state === state) this.runOn(ENDS_VALUE);
  }

  /** Takes what follows as it is, as far as it may be taken so. */
  private runOn(ends: Uint8Array): void {
    const { preprocessor } = this;
    const { html, pos } = preprocessor;
    // After a carriage return one more character may have to go; what was replaced is no run of the input.
    if (html.charCodeAt(pos) === CARRIAGE_RETURN || this.runEnd !== pos + 1) return;
    let end = pos + 1;
    while (end < html.length && ends[html.charCodeAt(end)] === 0) end++;
    preprocessor.pos = end - 1;
    this.runEnd = end;
  }
}

const CARRIAGE_RETURN = 0x0d;

/** A table by UTF-16 code unit. Halves of surrogate pairs are for the parser to put together. */
function endsBefore(characters: readonly string[]): Uint8Array {
  const table = new Uint8Array(0x1_00_00).fill(1, 0xd8_00, 0xe0_00);
  for (const character of characters) table[character.charCodeAt(0)] = 1;
  return table;
}
