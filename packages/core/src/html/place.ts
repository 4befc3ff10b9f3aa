import type { Token } from 'parse5';

/**
 * Where a token or a node stands, UTF-16 code units. Of the same shape from the beginning, whatever will be known of it,
 * and without lines and columns: nobody asks for these.
 */
export class Place implements Token.LocationWithAttributes, Token.ElementLocation {
  readonly startLine = 0;
  readonly startCol = 0;
  endLine = 0;
  endCol = 0;
  startTag: Token.LocationWithAttributes | undefined = undefined;
  endTag: Token.Location | undefined = undefined;
  attrs: Record<string, Token.Location> | undefined = undefined;

  constructor(
    public startOffset: number,
    public endOffset = -1,
  ) {}
}
