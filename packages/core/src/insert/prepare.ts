import { HEAD_ELEMENTS } from './names.js';
import { isAnchor, placementKey } from './placements.js';
import { WantedElements } from './selector/wanted-elements.js';
import type { InsertPart } from './types.js';
import { writtenCode } from './written-code.js';

export interface PreparedPart {
  readonly index: number;
  readonly key: string;
  /** Its first tag is one that the parser puts into the head by itself. */
  readonly startsInHead: boolean;
  /** It holds only scripts, styles and comments, which can stand nearly everywhere. */
  readonly isScript: boolean;
  /** It holds only what may stand in the head. */
  readonly isOfHead: boolean;
  /** It holds an element that ends an open paragraph. */
  readonly endsParagraph: boolean;
  /** The part in an encoding; undefined where it cannot be written. */
  bytes(encoding: string | undefined): Uint8Array | undefined;
}

/** Parts encoded and grouped by placement: made once per page plan and shared by all its page loads. */
export interface PreparedParts {
  /** As they were given. */
  readonly source: readonly InsertPart[];
  readonly count: number;
  readonly keys: readonly string[];
  /** By `placementKey`, in order. */
  readonly placements: ReadonlyMap<string, readonly PreparedPart[]>;
  /** The elements that parts ask for. */
  readonly elements: WantedElements;
  /** The parts that cannot be written in an encoding. */
  unwritable(encoding: string | undefined): readonly PreparedPart[];
}

/** Prepares parts for any number of `PageInserter`s. Parts of one placement keep their order. */
export function prepareParts(parts: readonly InsertPart[]): PreparedParts {
  const placements = new Map<string, PreparedPart[]>();
  parts.forEach((part, index) => {
    const key = placementKey(part.placement);
    const prepared = preparePart(part, index);
    const group = placements.get(key);
    if (group) group.push(prepared);
    else placements.set(key, [prepared]);
  });
  const all = [...placements.values()].flat();
  const unwritable = new Map<string | undefined, readonly PreparedPart[]>();
  return {
    source: parts,
    count: parts.length,
    keys: parts.map((part) => part.key),
    placements,
    elements: new WantedElements(parts.map(({ placement }) => placement).filter(isAnchor)),
    unwritable(encoding) {
      let found = unwritable.get(encoding);
      if (!found)
        unwritable.set(encoding, (found = all.filter((part) => part.bytes(encoding) === undefined)));
      return found;
    },
  };
}

const SCRIPTS = /<(script|style)\b[^]*?<\/\1\s*>|<!--[^]*?-->/gi;
/** Elements of the head (HTML Standard 13.2.6.4.4), with what is in them. */
const HEAD_CONTENT =
  /<(script|style|title|noscript|template)\b[^]*?<\/\1\s*>|<(?:base|link|meta)\b[^>]*>|<!--[^]*?-->/gi;
/** Start tags that close an open p (HTML Standard 13.2.6.4.7). */
const ENDS_PARAGRAPH =
  /<(?:address|article|aside|blockquote|center|details|dialog|dir|div|dl|dd|dt|fieldset|figcaption|figure|footer|form|h[1-6r]|header|hgroup|li|listing|main|menu|nav|ol|p|plaintext|pre|search|section|summary|table|ul|xmp)[\s/>]/i;

function preparePart({ key, code }: InsertPart, index: number): PreparedPart {
  const written = new Map<string | undefined, Uint8Array | undefined>();
  const firstTag = /^\s*<([a-z]+)/i.exec(code)?.[1]?.toLowerCase();
  return {
    index,
    key,
    isScript: code.replace(SCRIPTS, '').trim() === '',
    isOfHead: code.replace(HEAD_CONTENT, '').trim() === '',
    endsParagraph: ENDS_PARAGRAPH.test(code),
    startsInHead: firstTag !== undefined && HEAD_ELEMENTS.has(firstTag),
    bytes(encoding) {
      if (!written.has(encoding)) written.set(encoding, writtenCode(code, encoding));
      return written.get(encoding);
    },
  };
}
