import { DASH, GT, LT, SLASH, concatBytes, isLetter, isSpace, startsWithIgnoringCase } from './bytes.js';
import { readAttributes } from './attributes.js';

/** How many bytes a browser looks through for a declaration (HTML Standard 13.2.3.2). */
export const PRESCAN_BYTES = 1024;

/** How parts can be written into a page. */
export type PageEncoding =
  /** any text */
  | 'utf-8'
  /** ASCII text as it is; other characters are not known to fit */
  | 'ascii-compatible'
  /** no code can be written as plain bytes */
  | 'unsupported';

const NOT_ASCII_COMPATIBLE = new Set(['utf-16le', 'utf-16be', 'iso-2022-jp', 'replacement']);

/** The encoding that a byte order mark says (Encoding Standard, "BOM sniff"), with the mark's length. */
export function sniffByteOrderMark(
  bytes: Uint8Array,
): { encoding: PageEncoding; length: number } | undefined {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return { encoding: 'utf-8', length: 3 };
  const isUtf16 = (bytes[0] === 0xfe && bytes[1] === 0xff) || (bytes[0] === 0xff && bytes[1] === 0xfe);
  return isUtf16 ? { encoding: 'unsupported', length: 2 } : undefined;
}

/** The charset that a `Content-Type` declares (RFC 9110, 8.3), as it is written there. */
export function charsetOf(contentType: string | undefined): string | undefined {
  return /charset\s*=\s*"?([^\s;"]+)/i.exec(contentType ?? '')?.[1];
}

/** What a label of the Encoding Standard means for insertion; undefined for a label that nobody knows. */
export function encodingOfLabel(label: string): PageEncoding | undefined {
  let name: string;
  try {
    name = new TextDecoder(label).encoding;
  } catch {
    return undefined;
  }
  if (name === 'utf-8') return 'utf-8';
  return NOT_ASCII_COMPATIBLE.has(name) ? 'unsupported' : 'ascii-compatible';
}

/** Prescans a byte stream for a meta element that declares the encoding (HTML Standard, "prescan a byte stream"). */
export function prescan(page: Uint8Array): PageEncoding | undefined {
  const bytes = page.subarray(0, PRESCAN_BYTES);
  let at = 0;
  while ((at = bytes.indexOf(LT, at)) >= 0) {
    if (startsWithIgnoringCase(bytes, at, '<!--')) {
      // The two dashes may be those of the start: `<!-->` is whole.
      let end = at + 4;
      while (end < bytes.length && !(bytes[end] === GT && bytes[end - 1] === DASH && bytes[end - 2] === DASH))
        end++;
      at = end + 1;
      continue;
    }
    const isTag = isLetter(bytes[at + 1]) || (bytes[at + 1] === SLASH && isLetter(bytes[at + 2]));
    if (!isTag) {
      const next = bytes[at + 1];
      const skips = next === SLASH || next === 0x21 || next === 0x3f;
      const close = skips ? bytes.indexOf(GT, at) : at;
      if (close < 0) return undefined;
      at = close + 1;
      continue;
    }
    const close = tagEnd(bytes, at);
    if (close < 0) return undefined;
    const after = bytes[at + 5];
    if (startsWithIgnoringCase(bytes, at, '<meta') && (isSpace(after) || after === SLASH)) {
      const label = metaCharset(readAttributes(bytes, at + 5, close + 1));
      const encoding = label === undefined ? undefined : encodingOfLabel(label);
      // A meta cannot declare UTF-16: the bytes were read as ASCII to get here, so it means UTF-8.
      if (encoding !== undefined) return label!.toLowerCase().startsWith('utf-16') ? 'utf-8' : encoding;
    }
    at = close + 1;
  }
  return undefined;
}

function metaCharset(attributes: Map<string, string>): string | undefined {
  const charset = attributes.get('charset');
  if (charset !== undefined) return charset.trim();
  if (attributes.get('http-equiv')?.toLowerCase() !== 'content-type') return undefined;
  return /charset\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s;"']+))/i
    .exec(attributes.get('content') ?? '')
    ?.slice(1)
    .find(Boolean);
}

/** The `>` that ends the tag at `at`, quotes respected; -1 when the bytes end first. */
function tagEnd(bytes: Uint8Array, at: number): number {
  let quote = 0;
  let afterEquals = false;
  for (let i = at; i < bytes.length; i++) {
    const byte = bytes[i]!;
    if (quote !== 0) {
      if (byte === quote) quote = 0;
    } else if (byte === GT) return i;
    else if (afterEquals && (byte === 0x22 || byte === 0x27)) quote = byte;
    if (!isSpace(byte)) afterEquals = byte === 0x3d;
  }
  return -1;
}

/** Collects the first bytes of a page until its encoding can be told. */
export class EncodingSniffer {
  readonly #label: string | undefined;
  readonly #needsDeclaration: boolean;
  #collected: Uint8Array[] = [];
  #length = 0;

  /**
   * @param label - the encoding that the transport declared
   * @param needsDeclaration - whether anything depends on more than "ASCII-compatible or not"
   */
  constructor(label: string | undefined, needsDeclaration: boolean) {
    this.#label = label;
    this.#needsDeclaration = needsDeclaration;
  }

  /** Takes a chunk; returns the verdict with all bytes so far, or undefined while more are needed. */
  take(
    chunk: Uint8Array,
    ended: boolean,
  ): { bytes: Uint8Array; bomLength: number; encoding: PageEncoding } | undefined {
    this.#collected.push(chunk);
    this.#length += chunk.length;
    if (this.#length < 3 && !ended) return undefined;
    const bytes = this.collected();
    const mark = sniffByteOrderMark(bytes);
    if (mark) return { bytes, bomLength: mark.length, encoding: mark.encoding };
    const declared = this.#label === undefined ? undefined : encodingOfLabel(this.#label);
    if (declared !== undefined) return { bytes, bomLength: 0, encoding: declared };
    if (this.#needsDeclaration && this.#length < PRESCAN_BYTES && !ended) return undefined;
    return { bytes, bomLength: 0, encoding: prescan(bytes) ?? 'ascii-compatible' };
  }

  collected(): Uint8Array {
    const bytes = concatBytes(this.#collected.length > 0 ? this.#collected : [new Uint8Array(0)]);
    this.#collected = [bytes];
    return bytes;
  }
}
