import { DASH, GT, LT, SLASH, concatBytes, isLetter, isSpace, startsWithIgnoringCase } from './bytes.js';
import { readAttributes } from './attributes.js';

/** How many bytes a browser looks through for a declaration (HTML Standard 13.2.3.2). */
export const PRESCAN_BYTES = 1024;

/** What is known of a page's encoding before it is read. */
export interface PageEncoding {
  /** Name in the Encoding Standard; undefined when nothing declares it: some encoding in which ASCII is ASCII. */
  readonly name: string | undefined;
  readonly markLength: number;
  /** Where the declaration ends that the name was taken from, if it is in the page: it must stay in the first 1,024 bytes. */
  readonly declarationEnd: number | undefined;
}

/** The encoding that a byte order mark says (Encoding Standard, "BOM sniff"). */
function sniffByteOrderMark(bytes: Uint8Array): PageEncoding | undefined {
  const mark = (name: string, markLength: number): PageEncoding => ({
    name,
    markLength,
    declarationEnd: undefined,
  });
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return mark('utf-8', 3);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return mark('utf-16be', 2);
  return bytes[0] === 0xff && bytes[1] === 0xfe ? mark('utf-16le', 2) : undefined;
}

/** The charset that a `Content-Type` declares (RFC 9110, 8.3), as it is written there. */
export function charsetOf(contentType: string | undefined): string | undefined {
  return /charset\s*=\s*"?([^\s;"]+)/i.exec(contentType ?? '')?.[1];
}

/** Labels whose decoder gives nothing but an error (Encoding Standard, "replacement"). */
const REPLACEMENT = new Set([
  'replacement',
  'csiso2022kr',
  'hz-gb-2312',
  'iso-2022-cn',
  'iso-2022-cn-ext',
  'iso-2022-kr',
]);

/** The name of the encoding that a label means (Encoding Standard, "get an encoding"); undefined for no label. */
export function encodingOfLabel(label: string): string | undefined {
  if (knownLabels.has(label)) return knownLabels.get(label);
  const name = lookUpLabel(label);
  // Labels come from pages: only so many are kept.
  if (knownLabels.size < MAX_LABELS) knownLabels.set(label, name);
  return name;
}

const knownLabels = new Map<string, string | undefined>();
const MAX_LABELS = 500;

/** Without ASCII white space around it (Infra Standard, "strip leading and trailing ASCII whitespace"). */
function trimAscii(text: string): string {
  let start = 0;
  let end = text.length;
  while (start < end && SPACES.has(text[start]!)) start++;
  while (end > start && SPACES.has(text[end - 1]!)) end--;
  return text.slice(start, end);
}

const SPACES = new Set('\t\n\f\r ');

function lookUpLabel(label: string): string | undefined {
  const trimmed = trimAscii(label).toLowerCase();
  if (REPLACEMENT.has(trimmed)) return 'replacement';
  if (trimmed === 'x-user-defined') return trimmed;
  try {
    return new TextDecoder(trimmed).encoding;
  } catch {
    return undefined;
  }
}

const decoders = new Map<string | undefined, TextDecoder>();

/** A decoder for whole texts in an encoding of the Standard; as UTF-8 where there is none. */
export function decoderOf(name: string | undefined): TextDecoder {
  let decoder = decoders.get(name);
  if (!decoder) {
    const hasNone = name === undefined || name === 'replacement' || name === 'x-user-defined';
    decoder = hasNone ? new TextDecoder() : new TextDecoder(name, { ignoreBOM: true });
    decoders.set(name, decoder);
  }
  return decoder;
}

interface Declaration {
  readonly name: string;
  /** One past the `>` of its meta. */
  readonly end: number;
}

/**
 * Looks for a meta element that declares the encoding (HTML Standard, "prescan a byte stream to determine its
 * encoding").
 *
 * @param page - the page's first bytes, of which at most 1,024 count
 */
export function prescan(page: Uint8Array): Declaration | undefined {
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
      const name = label === undefined ? undefined : encodingOfLabel(label);
      if (name !== undefined) return { name: declarable(name), end: close + 1 };
    }
    at = close + 1;
  }
  return undefined;
}

/** A meta cannot declare UTF-16: its bytes were read as ASCII to get here. */
function declarable(name: string): string {
  if (name.startsWith('utf-16')) return 'utf-8';
  return name === 'x-user-defined' ? 'windows-1252' : name;
}

function metaCharset(attributes: Map<string, string>): string | undefined {
  const charset = attributes.get('charset');
  if (charset !== undefined) return charset;
  if (attributes.get('http-equiv')?.toLowerCase() !== 'content-type') return undefined;
  const declared =
    /charset[\t\n\f\r ]*=[\t\n\f\r ]*(?:(["'])(?<quoted>[^]*?)\1|(?<bare>[^\t\n\f\r ;"']+))/i.exec(
      attributes.get('content') ?? '',
    )?.groups;
  return declared?.['quoted'] ?? declared?.['bare'];
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

/** Collects the first bytes of a page until its encoding can be told (HTML Standard 13.2.3.2, the encoding sniffing algorithm). */
export class EncodingSniffer {
  readonly #declared: string | undefined;
  #collected: Uint8Array[] = [];
  #length = 0;

  /** @param label - the encoding that the transport declared */
  constructor(label: string | undefined) {
    this.#declared = label === undefined ? undefined : encodingOfLabel(label);
  }

  /** Takes a chunk; returns the verdict, or undefined while more bytes are needed. */
  take(chunk: Uint8Array, ended: boolean): PageEncoding | undefined {
    this.#collected.push(chunk);
    this.#length += chunk.length;
    if (this.#length < 3 && !ended) return undefined;
    const bytes = this.collected();
    const mark = sniffByteOrderMark(bytes);
    if (mark) return mark;
    if (this.#declared !== undefined)
      return { name: this.#declared, markLength: 0, declarationEnd: undefined };
    const found = prescan(bytes);
    if (!found && this.#length < PRESCAN_BYTES && !ended) return undefined;
    return { name: found?.name, markLength: 0, declarationEnd: found?.end };
  }

  /** All bytes so far. */
  collected(): Uint8Array {
    const bytes = concatBytes(this.#collected.length > 0 ? this.#collected : [new Uint8Array(0)]);
    this.#collected = [bytes];
    return bytes;
  }
}

/** The encoding of a whole page (its name in the Encoding Standard), or undefined when nothing declares it. */
export function pageEncoding(page: Uint8Array, label: string | undefined): string | undefined {
  return new EncodingSniffer(label).take(page, true)!.name;
}

/** The encoding of a whole page and what declares it (HTML Standard 13.2.3.2). @param label - of the `Content-Type` */
export function sniffEncoding(
  page: Uint8Array,
  label: string | undefined,
): { readonly name: string | undefined; readonly from: 'mark' | 'header' | 'meta' | 'not-declared' } {
  const mark = sniffByteOrderMark(page);
  if (mark) return { name: mark.name, from: 'mark' };
  const declared = label === undefined ? undefined : encodingOfLabel(label);
  if (declared !== undefined) return { name: declared, from: 'header' };
  const found = prescan(page);
  return found ? { name: found.name, from: 'meta' } : { name: undefined, from: 'not-declared' };
}
