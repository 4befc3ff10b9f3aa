import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { CompiledLine } from './compile.js';
import { POINTER_SCRIPT } from './scripts.js';
import { releaseCall } from './release-call.js';
import type { LineLive } from './types.js';

/** A file that browsers load. */
export interface LineFile {
  /** Below the folder of all lines, e.g. `skerrywick/0123456789abcdef.js`. */
  readonly path: string;
  readonly text: string;
}

/** Whether the line holds the page up until its head parts have run, or never does. */
export type LineForm = 'order' | 'async';

/** The text that is pasted into the head of all pages. @param base - where the lines' folder is, without a slash at its end */
export function lineTag(base: string, name: string, form: LineForm): string {
  return `<script${form === 'async' ? ' async' : ''} src="${base}/${name}.js"></script>`;
}

/** A release's file, which never changes, named by what is in it. */
export interface LineReleaseFile extends LineFile {
  readonly digest: string;
  /** Subresource integrity, for the pinned form. */
  readonly integrity: string;
}

const DIGEST_LENGTH = 20;

/** What the line of a site is called: `skerrywick.js`, for staging `skerrywick.staging.js`. */
export function lineName(site: string, environment: 'live' | 'staging'): string {
  return environment === 'live' ? site : `${site}.${environment}`;
}

/** @param name - see `lineName` */
export function releaseFile(name: string, { release }: CompiledLine): LineReleaseFile {
  const text = `try{${releaseCall(release, literal(release))}}catch{}\n`;
  const hash = sha256(utf8ToBytes(text));
  const digest = bytesToHex(hash).slice(0, DIGEST_LENGTH);
  return { path: `${name}/${digest}.js`, text, digest, integrity: `sha256-${toBase64(hash)}` };
}

/** The file behind the line: which release is served now. @param note - said in a comment, e.g. "release 12" */
export function pointerFile(name: string, digest: string, live: LineLive, note: string): LineFile {
  const said = note.replaceAll('*/', '* /');
  return {
    path: `${name}.js`,
    text: `/* Pragmatica: ${said} */try{${POINTER_SCRIPT}()(${literal(digest)},${literal(live)})}catch{}\n`,
  };
}

/** JSON is JavaScript but for what is left out at the end of a list. */
function literal(value: unknown): string {
  return JSON.stringify(value);
}

function toBase64(bytes: Uint8Array): string {
  return btoa(String.fromCharCode(...bytes));
}
