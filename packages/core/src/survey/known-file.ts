import type { Params } from '../texts/index.js';
import { fileNeeds } from '../policy/index.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';
import { readCode, type Facts, type Load } from '../facts/index.js';

/** What a file that pages load does, read without running it. */
export interface FileReading {
  /** Global names that it makes: at once, as libraries do, even where they hand that to a function. */
  readonly defines: readonly string[];
  /** Names of the cookies that it sets, as far as they are written in it. */
  readonly cookies: readonly string[];
  /** Names under which it keeps something in the visitor's browser otherwise. */
  readonly stores: readonly string[];
  /** Hosts that it talks to, sorted. */
  readonly hosts: readonly string[];
  /** What it asks for, `image tallymast.example`; not known of files that were read before this was asked. */
  readonly asks?: readonly string[];
}

/** A script or style sheet that pages load, as a survey got it. */
export interface KnownFile extends FileReading {
  /** Whole address. */
  readonly address: string;
  /** What its server answered; null where it did not. */
  readonly status: number | null;
  /** Of the file itself, whatever it was packed in for the way. */
  readonly bytes: number;
  /** Whether it could be read: where it could not, nothing is known of what it does. */
  readonly isRead: boolean;
  /** Its hashes (Subresource Integrity, 3.1), one of each kind; left out or null where they are not known. */
  readonly integrity?: string | null;
  /** Its server lets pages of other hosts compare it (Access-Control-Allow-Origin). */
  readonly isShared?: boolean;
}

const NOTHING: FileReading = { defines: [], cookies: [], stores: [], hosts: [] };
/** Names of one kind that are kept of a file. */
const MAX_NAMES = 200;

/** Reads a script file. @returns undefined where it cannot be read */
export function readScriptFile(code: string): FileReading | undefined {
  const facts = readCode(code);
  if (facts.language !== 'javascript' && code.trim() !== '') return undefined;
  if (facts.problems.some(({ kind }) => kind === 'syntax' || kind === 'unread')) return undefined;
  const stored = (isCookie: boolean): string[] =>
    distinct(
      facts.storage.flatMap(({ where, key }) =>
        key !== undefined && (where === 'cookie') === isCookie ? [key] : [],
      ),
    ).sort();
  return {
    ...NOTHING,
    defines: distinct(facts.defines.map(({ name }) => name)),
    cookies: stored(true),
    stores: stored(false),
    hosts: facts.hosts.slice(0, MAX_NAMES),
    asks: fileNeeds(facts.loads).slice(0, MAX_NAMES),
  };
}

/** Addresses that a script puts together cannot be known. */
const HOLE = '…';

/** The scripts and style sheets that a browser loads for a code, as their addresses are written. Images, frames and what is sent are none: asking for them would count as a visit. */
export function filesLoadedBy({ loads }: Facts): Load[] {
  return loads.filter(
    ({ kind, address, noScript }) =>
      (kind === 'script' || kind === 'style') && !noScript && address !== '' && !address.includes(HOLE),
  );
}

function distinct(names: readonly string[]): string[] {
  return [...new Set(names)].slice(0, MAX_NAMES);
}

/** What a file is and does, in one line: "12 KB; sets the cookie tm_visit; talks to in.tallymast.example". */
export function fileWords({
  status,
  bytes,
  cookies,
  stores,
  hosts,
}: Pick<KnownFile, 'status' | 'bytes' | 'cookies' | 'stores' | 'hosts'>): string {
  if (status === null) return SURVEY_TEXTS.fileIsSilent;
  if (status >= FAILED) return say(SURVEY_TEXTS.fileIsGone, { status });
  const names = (all: readonly string[]): Params<'names' | 'count'> => ({
    names: all.length > MAX_NAMED ? [...all.slice(0, MAX_NAMED), '…'] : all,
    count: all.length,
  });
  return [
    say(SURVEY_TEXTS.fileIsLarge, { kb: kilobytes(bytes) }),
    ...(cookies.length > 0 ? [say(SURVEY_TEXTS.fileSets, names(cookies))] : []),
    ...(stores.length > 0 ? [say(SURVEY_TEXTS.fileKeeps, names(stores))] : []),
    ...(hosts.length > 0 ? [say(SURVEY_TEXTS.fileTalks, names(hosts))] : []),
  ].join('; ');
}

/** As people tell sizes: no file is of none. */
export function kilobytes(bytes: number): number {
  return Math.max(1, Math.round(bytes / KB));
}

const KB = 1_000;
const FAILED = 400;
const MAX_NAMED = 6;

/** Files by their addresses, also as pages write these. */
export class FileBook<F extends KnownFile = KnownFile> {
  readonly #base: string;
  readonly #files: ReadonlyMap<string, F>;

  /** @param base - address of the site, against which addresses in its pages count */
  constructor(base: string, files: readonly F[]) {
    this.#base = base;
    this.#files = new Map(files.map((file) => [file.address, file]));
  }

  /** Whether no file is known at all. */
  get isEmpty(): boolean {
    return this.#files.size === 0;
  }

  /** Whether a script is loaded of which nobody knows what it does. @param path - of the page that loads it */
  isUnread({ kind, noScript, address }: Load, path?: string): boolean {
    return kind === 'script' && !noScript && this.find(address, path)?.isRead !== true;
  }

  /** @param path - of the page in which the address is written */
  find(address: string, path = '/'): F | undefined {
    const whole = wholeAddress(address, this.#base + path);
    return whole === undefined ? undefined : this.#files.get(whole);
  }
}

/** The address that a browser asks for, without its fragment; undefined for what is none of the web. */
export function wholeAddress(address: string, page: string): string | undefined {
  if (!URL.canParse(address, page)) return undefined;
  const url = new URL(address, page);
  if (url.protocol !== 'http:' && url.protocol !== 'https:') return undefined;
  url.hash = '';
  return url.href;
}
