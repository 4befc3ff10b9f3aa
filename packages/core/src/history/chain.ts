import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { canonicalJson } from '../snapshot/index.js';

/** What a change did to one thing: a snippet, a site, a host, a member … */
export interface TrailChange {
  readonly kind: string;
  readonly key: string;
  /** Null where it was not there. */
  readonly before: object | null;
  /** Null where it is gone. */
  readonly after: object | null;
}

/** What the trail says of one thing that was done. */
export interface TrailEntry {
  /** RFC 3339, in UTC, with milliseconds. */
  readonly at: string;
  /** Login of whoever did it. */
  readonly by: string;
  /** Name of the token that it was done with; null for a session, and for what the service does itself. */
  readonly token: string | null;
  /** The address that it was asked from; null where nobody asked. */
  readonly address: string | null;
  /** Key of the site; null where it is about the installation. */
  readonly site: string | null;
  readonly action: string;
  readonly message: string;
  readonly changes: readonly TrailChange[];
}

/** A link of the chain: it stands for an entry, and for all links before it. */
export interface TrailLink {
  /** From 1, without a gap. */
  readonly number: number;
  /** When the entry was made; RFC 3339. */
  readonly at: string;
  /** SHA-256 of the entry, in hex. */
  readonly digest: string;
  /** SHA-256 of the link before and of this one, in hex. */
  readonly hash: string;
}

/** What stands before the first link. */
export const CHAIN_START = '0'.repeat(64);

/** SHA-256 of an entry's canonical JSON (RFC 8785), in lower-case hex. */
export function entryDigest({ at, by, token, address, site, action, message, changes }: TrailEntry): string {
  const said = { at, by, token, address, site, action, message };
  const plain = changes.map(({ kind, key, before, after }) => ({ kind, key, before, after }));
  return sha256Hex(canonicalJson({ ...said, changes: plain }));
}

/** The link of an entry. @param before - hash of the link before it, `CHAIN_START` for the first */
export function nextLink(
  before: string,
  { number, at, digest }: Pick<TrailLink, 'number' | 'at' | 'digest'>,
): TrailLink {
  return { number, at, digest, hash: sha256Hex([before, String(number), at, digest].join('\n')) };
}

function sha256Hex(text: string): string {
  return bytesToHex(sha256(utf8ToBytes(text)));
}

/** What is wrong at one place of the chain. */
export type ChainFault =
  /** Links are missing before this one. */
  | 'gap'
  /** The link does not follow from the one before it. */
  | 'link'
  /** The entry is not what it was when it was made. */
  | 'entry'
  /** The entry is gone, and not because it was too old to be kept. */
  | 'missing'
  /** The exported head is not in the chain. */
  | 'head';

export interface ChainProblem {
  readonly number: number;
  readonly fault: ChainFault;
}

/** Where a chain ends. */
export type ChainHead = Pick<TrailLink, 'number' | 'hash'>;

export interface CheckedChain {
  readonly links: number;
  /** How many entries were there to be read; older ones may be gone by the owner’s rule. */
  readonly entries: number;
  readonly faults: number;
  /** The first of them. */
  readonly problems: readonly ChainProblem[];
  readonly head: ChainHead;
}

const MAX_PROBLEMS = 20;

/**
 * Reads a chain link by link and tells where it was broken. After a broken link it goes on from what the link says itself, so that
 * one change is told once and what stands behind it is still read.
 */
export class ChainReader {
  #links = 0;
  #entries = 0;
  #faults = 0;
  #head: ChainHead = { number: 0, hash: CHAIN_START };
  #isExpectedSeen: boolean;
  readonly #problems: ChainProblem[] = [];

  /**
   * @param keptSince - entries made before it may be gone; RFC 3339, undefined where all are kept
   * @param expected - a head that was exported before
   */
  constructor(
    private readonly keptSince: string | undefined,
    private readonly expected?: ChainHead,
  ) {
    this.#isExpectedSeen = expected === undefined || isHead(this.#head, expected);
  }

  /** How many faults there are so far. */
  get faults(): number {
    return this.#faults;
  }

  /** Reads the next link. @param entry - what it stands for; undefined where it is gone */
  read(link: TrailLink, entry: TrailEntry | undefined): void {
    this.#links++;
    if (link.number !== this.#head.number + 1) this.#report(link.number, 'gap');
    else if (nextLink(this.#head.hash, link).hash !== link.hash) this.#report(link.number, 'link');
    if (entry) {
      this.#entries++;
      if (entryDigest(entry) !== link.digest) this.#report(link.number, 'entry');
    } else if (this.keptSince === undefined || link.at >= this.keptSince)
      this.#report(link.number, 'missing');
    this.#head = { number: link.number, hash: link.hash };
    if (this.expected && isHead(this.#head, this.expected)) this.#isExpectedSeen = true;
  }

  /** What was found, once all links were read. */
  finish(): CheckedChain {
    if (!this.#isExpectedSeen) this.#report(this.expected!.number, 'head');
    return {
      links: this.#links,
      entries: this.#entries,
      faults: this.#faults,
      problems: [...this.#problems],
      head: this.#head,
    };
  }

  #report(number: number, fault: ChainFault): void {
    this.#faults++;
    if (this.#problems.length < MAX_PROBLEMS) this.#problems.push({ number, fault });
  }
}

function isHead(a: ChainHead, b: ChainHead): boolean {
  return a.number === b.number && a.hash === b.hash;
}
