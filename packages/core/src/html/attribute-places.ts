import { Tokenizer, type Token, type TokenHandler } from 'parse5';

/** A stretch of a text, UTF-16 code units. */
interface Stretch {
  readonly start: number;
  readonly end: number;
}

/**
 * Where the attributes of the tag that a code begins with stand in it, by name. The tag is read by itself: a page's tree
 * keeps no places of attributes, as they are asked of few elements.
 */
export function attributePlaces(code: string): ReadonlyMap<string, Stretch> {
  const reader = new StartTagReader();
  const tokenizer = new Tokenizer({ sourceCodeLocationInfo: true }, reader);
  reader.stop = () => tokenizer.pause();
  tokenizer.write(code, true);
  return reader.places;
}

/** Takes the first tag and nothing else. */
class StartTagReader implements TokenHandler {
  places: ReadonlyMap<string, Stretch> = new Map();
  readonly onParseError = null;
  stop = (): void => undefined;

  onStartTag({ location }: Token.TagToken): void {
    const places = Object.entries(location?.attrs ?? {});
    this.places = new Map(
      places.map(([name, { startOffset, endOffset }]) => [name, { start: startOffset, end: endOffset }]),
    );
    this.stop();
  }

  onEndTag(): void {
    this.stop();
  }
  onComment(): void {
    this.stop();
  }
  onDoctype(): void {
    this.stop();
  }
  onCharacter(): void {
    this.stop();
  }
  onNullCharacter(): void {
    this.stop();
  }
  onWhitespaceCharacter(): void {
    this.stop();
  }
  onEof(): void {
    this.stop();
  }
}
