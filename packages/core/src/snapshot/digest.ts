import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import canonicalizeModule from 'canonicalize';
import { memoizeByObject } from '../memoize/by-object.js';
import type { Snapshot } from './snapshot.js';

// The package is CommonJS; its types describe the default export one level off.
const canonicalize = canonicalizeModule as unknown as (value: unknown) => string | undefined;

/** Canonical JSON (RFC 8785): equal data give equal text, byte for byte. */
export function canonicalJson(data: object): string {
  return canonicalize(data)!;
}

/** SHA-256 of the canonical JSON, in lower-case hex. */
export const snapshotDigest = memoizeByObject((snapshot: Snapshot): string =>
  bytesToHex(sha256(utf8ToBytes(canonicalJson(snapshot)))),
);
