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
}

const MARK = /<(?:!-- |meta name="generator" content=")(\/?)Pragmatica ([^<>"]*?)(?: -->|"\s*\/?>)/g;
const BEGIN = /^([a-z0-9-]{1,64}) release (\d{1,9}) ([a-z-]{1,20}) ([0-9a-f]{12})$/;

/** Pasted blocks in a page's source, in one pass. */
export function findBlocks(html: string): FoundBlock[] {
  const found: FoundBlock[] = [];
  let open: (BlockMark & { readonly from: number }) | undefined;
  const close = (text: string | undefined): void => {
    if (!open) return;
    const { from: _, ...mark } = open;
    const state = text === undefined ? 'cut' : blockDigest(text) === mark.digest ? 'whole' : 'altered';
    found.push({ ...mark, state });
    open = undefined;
  };
  for (const match of html.matchAll(MARK)) {
    const [whole, slash, said] = match;
    if (slash === '/') {
      close(open && said === open.digest ? html.slice(open.from, match.index) : undefined);
      continue;
    }
    close(undefined);
    const [, site, release, box, digest] = BEGIN.exec(said!) ?? [];
    if (site === undefined || !BOX_KEYS.includes(box as BoxKind)) continue;
    open = {
      ...{ site, release: Number(release), box: box as BoxKind, digest: digest! },
      from: match.index + whole.length,
    };
  }
  close(undefined);
  return found;
}
