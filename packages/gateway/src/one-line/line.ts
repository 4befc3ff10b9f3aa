import { createHash } from 'node:crypto';
import { brotliCompress, brotliCompressSync, constants, gzip, gzipSync } from 'node:zlib';
import {
  compileLine,
  lineHours,
  lineName,
  pointerFile,
  releaseFile,
  type CompiledLine,
  type LineReleaseFile,
  type Snapshot,
} from '@pragmatica/core';
import type { Environment } from '@pragmatica/contract';

/** A file ready to be sent, packed once. */
export interface ReadyFile {
  readonly etag: string;
  readonly plain: Buffer;
  /** Undefined while it is being packed: nothing waits for that. */
  packed(coding: 'gzip' | 'br'): Buffer | undefined;
}

export function readyFile(text: string): ReadyFile {
  const plain = Buffer.from(text);
  const packed = new Map<'gzip' | 'br', Buffer | undefined>();
  const pack = (coding: 'gzip' | 'br'): void => {
    if (plain.length <= AT_ONCE)
      packed.set(coding, coding === 'br' ? brotliCompressSync(plain, BROTLI) : gzipSync(plain, GZIP));
    else {
      packed.set(coding, undefined);
      const done = (error: Error | null, bytes: Buffer): void => {
        if (!error) packed.set(coding, bytes);
      };
      if (coding === 'br') brotliCompress(plain, BROTLI, done);
      else gzip(plain, GZIP, done);
    }
  };
  return {
    etag: `"${createHash('sha256').update(plain).digest('base64url').slice(0, 22)}"`,
    plain,
    packed(coding) {
      if (!packed.has(coding)) pack(coding);
      return packed.get(coding);
    },
  };
}

/** Packing more than this takes longer than a page may wait for another. */
const AT_ONCE = 32 << 10;
const GZIP = { level: constants.Z_BEST_COMPRESSION };
const BROTLI = { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } };
const MINUTE_MS = 60_000;
/** A pointer is asked for anew after a minute, and may be used ten more meanwhile. */
export const POINTER_FRESH_S = 60;
export const POINTER_STALE_S = 600;
/** How long a browser may show what it has kept: so far the server's clock may have gone on. */
const KEPT_MS = (POINTER_FRESH_S + POINTER_STALE_S) * 1_000 + MINUTE_MS;
const HOURS_AHEAD_MS = 7 * 24 * 60 * MINUTE_MS;

/** What the one line of a site loads, of one release: made when it is first asked for. */
export class Line {
  readonly name: string;
  readonly #snapshot: Snapshot;
  readonly #environment: Environment;
  readonly #number: number;
  #compiled: CompiledLine | undefined;
  #file: LineReleaseFile | undefined;
  #release: ReadyFile | undefined;
  #pointer: { readonly minute: number; readonly file: ReadyFile } | undefined;

  constructor(snapshot: Snapshot, environment: Environment, number: number) {
    this.#snapshot = snapshot;
    this.#environment = environment;
    this.#number = number;
    this.name = lineName(snapshot.site.key, environment);
  }

  /** Names the release's file. */
  get digest(): string {
    return this.#releaseFile.digest;
  }

  get release(): ReadyFile {
    this.#release ??= readyFile(this.#releaseFile.text);
    return this.#release;
  }

  /** @param now - milliseconds since 1970; within a minute it is the same */
  pointer(now: number): ReadyFile {
    const minute = Math.floor(now / MINUTE_MS);
    if (this.#pointer?.minute !== minute) {
      const at = minute * MINUTE_MS;
      const hours = lineHours(this.#line, at, HOURS_AHEAD_MS);
      const note = `release ${this.#number}`;
      const { text } = pointerFile(this.name, this.digest, [at, KEPT_MS, hours], note);
      this.#pointer = { minute, file: readyFile(text) };
    }
    return this.#pointer.file;
  }

  get #line(): CompiledLine {
    this.#compiled ??= compileLine(this.#snapshot, this.#environment);
    return this.#compiled;
  }

  get #releaseFile(): LineReleaseFile {
    this.#file ??= releaseFile(this.name, this.#line);
    return this.#file;
  }
}
