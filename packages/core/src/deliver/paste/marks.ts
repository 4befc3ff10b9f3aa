import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { BoxKind } from './box.js';
import { BOX_KEYS } from './box.js';

const DIGEST_LENGTH = 12;

/** Of a block's text; site builders change white space. */
export function blockDigest(text: string): string {
  return bytesToHex(sha256(utf8ToBytes(text.replace(/\s+/g, '')))).slice(0, DIGEST_LENGTH);
}

/** What a pasted block says of itself. */
export interface BlockMark {
  readonly site: string;
  readonly release: number;
  readonly box: BoxKind;
  readonly digest: string;
}

/** A block's text between marks: comments, or where a site builder strips these, elements that do nothing. */
export function markedBlock(
  text: string,
  { site, release, box, digest }: BlockMark,
  asElements: boolean,
): string {
  const begin = `Pragmatica ${site} release ${release} ${box} ${digest}`;
  const end = `/Pragmatica ${digest}`;
  return asElements
    ? `<meta name="generator" content="${begin}">\n${text}\n<meta name="generator" content="${end}">`
    : `<!-- ${begin} -->\n${text}\n<!-- ${end} -->`;
}

/** A block as it stands in a page. */
export interface FoundBlock extends BlockMark {
  /** It is as it was to be pasted; something in it has changed or is missing; or its end is not there. */
  readonly state: 'whole' | 'altered' | 'cut';
  /** From its first mark to the end of its last; of one without an end, the first mark. */
  readonly range: { readonly start: number; readonly end: number };
}

const MARK = /<(?:!-- |meta name="generator" content=")(\/?)Pragmatica ([^<>"]*?)(?: -->|"\s*\/?>)/g;
const BEGIN = /^([a-z0-9-]{1,64}) release (\d{1,9}) ([a-z-]{1,20}) ([0-9a-f]{12})$/;

/** Pasted blocks in a page's source, in one pass. */
export function findBlocks(html: string): FoundBlock[] {
  const found: FoundBlock[] = [];
  let open: (BlockMark & { readonly start: number; readonly from: number }) | undefined;
  const close = (end?: { readonly at: number; readonly length: number }): void => {
    if (!open) return;
    const { start, from, ...mark } = open;
    const text = end && html.slice(from, end.at);
    const state = text === undefined ? 'cut' : blockDigest(text) === mark.digest ? 'whole' : 'altered';
    found.push({ ...mark, state, range: { start, end: end ? end.at + end.length : from } });
    open = undefined;
  };
  for (const match of html.matchAll(MARK)) {
    const [whole, slash, said] = match;
    if (slash === '/') {
      close(open && said === open.digest ? { at: match.index, length: whole.length } : undefined);
      continue;
    }
    close();
    const [, site, release, box, digest] = BEGIN.exec(said!) ?? [];
    if (site === undefined || !BOX_KEYS.includes(box as BoxKind)) continue;
    open = {
      ...{ site, release: Number(release), box: box as BoxKind, digest: digest! },
      ...{ start: match.index, from: match.index + whole.length },
    };
  }
  close();
  return found;
}
