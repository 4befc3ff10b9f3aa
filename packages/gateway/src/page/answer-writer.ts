import type { ServerResponse } from 'node:http';
import { OF_THE_PAGES_BYTES } from '@pragmatica/core';
import type { Logger } from 'pino';
import { Burst } from './burst.js';
import { MAX_CACHED_BODY } from './compressed-cache.js';
import { firstOf, type HeaderMap } from './headers.js';
import { PACKED_AT_ONCE, createPacker, flushKind, packAtOnce, type PackingCoding } from './packing.js';

export interface AnswerHead {
  readonly status: number;
  readonly headers: HeaderMap;
}

/** How an answer is packed. */
export interface Packing {
  readonly coding: PackingCoding;
  /** Takes a body that was whole when it was packed, as it went out; undefined for one that is packed as it comes. */
  readonly onPacked?: (packed: Buffer | undefined) => void;
}

export interface WriterOptions {
  readonly log: Logger;
  /** No body may be sent, whatever comes. */
  readonly isHead: boolean;
  /** No more is wanted for the moment, or again. */
  readonly pause: () => void;
  readonly resume: () => void;
}

/** Pieces up to this sum are sent in one. */
const JOINED = 1 << 16;

/**
 * Writes an answer to the client: what comes in one go goes out in one go, with its length where it is whole by then,
 * and packed where the client takes that. Until the head is out everything can be taken back.
 */
export class AnswerWriter {
  readonly #response: ServerResponse;
  readonly #options: WriterOptions;
  #head: AnswerHead | undefined;
  #packing: Packing | undefined;
  #packer: ReturnType<typeof createPacker> | undefined;
  #trailers: HeaderMap | undefined;
  /** What is on its way to the client and has not been written yet. */
  #pieces: Uint8Array[] = [];
  #isFlushing = false;
  #hasEnded = false;
  /** A body that comes in one go, as most do, is held until it is whole. */
  readonly #burst = new Burst(
    () => this.#length,
    () => this.flushSoon(),
  );
  /** The last piece is on its way out. */
  #isOver = false;

  constructor(response: ServerResponse, options: WriterOptions) {
    this.#response = response;
    this.#options = options;
    response.on('drain', () => {
      if (this.#packer) this.#packer.resume();
      else options.resume();
    });
    response.on('close', () => {
      this.#burst.cancel();
      if (!response.writableFinished) this.#packer?.destroy();
    });
  }

  /** Says how the answer begins; again, as long as nothing is out. @param packing - undefined for one that goes as it is */
  begin(head: AnswerHead, packing: Packing | undefined): void {
    this.#head = head;
    this.#packing = packing;
  }

  give(pieces: readonly Uint8Array[]): void {
    for (const piece of pieces) if (piece.length > 0) this.#pieces.push(piece);
    this.flushSoon();
  }

  end(trailers: HeaderMap | undefined): void {
    this.#trailers = trailers;
    this.#hasEnded = true;
    this.flushSoon();
  }

  /** Ends with a body that is packed already, instead of any other. */
  endPacked(packed: Buffer, trailers: HeaderMap | undefined): void {
    if (this.#response.destroyed || this.#isOver) return;
    this.#trailers = trailers;
    this.#hasEnded = true;
    this.#sendWhole(this.#head!, this.#packing!.coding, packed);
  }

  /** What comes from here on is not held back. */
  holdNoMore(): void {
    this.#burst.end();
  }

  /** Nothing is out yet: what came counts for nothing, and another answer may begin. */
  reset(): void {
    this.#burst.cancel();
    this.#hasEnded = false;
    this.#head = this.#packing = this.#trailers = undefined;
    this.#pieces = [];
  }

  /** Part of the answer is out: only breaking off says that the rest is missing. */
  breakOff(): void {
    this.#packer?.destroy();
    this.#response.destroy();
  }

  flushSoon(): void {
    if (this.#isFlushing) return;
    this.#isFlushing = true;
    queueMicrotask(() => {
      this.#isFlushing = false;
      // Without a head there is nothing to send: what began has been taken back meanwhile.
      if (this.#response.destroyed || this.#isOver || !this.#head) return;
      if (!this.#packing || !this.#flushPacked(this.#head, this.#packing)) this.#flush(this.#head);
    });
  }

  get #length(): number {
    return this.#pieces.reduce((sum, piece) => sum + piece.length, 0);
  }

  #flush({ status, headers }: AnswerHead): void {
    const response = this.#response;
    const length = this.#length;
    if (!response.headersSent) {
      const isBare = status === 204 || status === 304 || this.#options.isHead;
      if (this.#hasEnded && !isBare && headers['content-length'] === undefined && !this.#trailers)
        headers['content-length'] = String(length);
      this.#writeHead(status, headers);
      if (length === 0 && !this.#hasEnded) response.flushHeaders();
    }
    const pieces =
      length <= JOINED && this.#pieces.length > 1 ? [Buffer.concat(this.#pieces, length)] : this.#pieces;
    this.#pieces = [];
    let isFull = false;
    const last = this.#hasEnded && !this.#trailers ? pieces.pop() : undefined;
    if (pieces.length > 1) response.cork();
    for (const piece of pieces) isFull = !response.write(piece);
    if (pieces.length > 1) response.uncork();
    if (!this.#hasEnded) {
      if (isFull) this.#options.pause();
      return;
    }
    this.#isOver = true;
    if (this.#trailers) response.addTrailers(this.#trailers);
    if (last) response.end(last);
    else response.end();
  }

  /**
   * Packs what there is. A body that is whole by now goes out in one piece with its length; one that is not is waited
   * for, for a moment, and then packed as it comes.
   *
   * @returns false where the answer goes out as it is after all
   */
  #flushPacked(head: AnswerHead, packing: Packing): boolean {
    const length = this.#length;
    if (!this.#packer) {
      if (this.#hasEnded && length <= PACKED_AT_ONCE) return this.#sendPacked(head, packing, length);
      if (!this.#hasEnded && length < MAX_CACHED_BODY && !this.#burst.isOver) {
        this.#burst.watch();
        return true;
      }
      this.#burst.end();
    }
    const packer = (this.#packer ??= this.#startPacker(head, packing));
    const pieces = this.#pieces;
    this.#pieces = [];
    let isFull = false;
    for (const piece of pieces) isFull = !packer.write(piece);
    if (this.#hasEnded) {
      this.#isOver = true;
      if (this.#trailers) this.#response.addTrailers(this.#trailers);
      packer.end();
    } else if (isFull) this.#options.pause();
    // What the visitor could see already is not kept back until more comes.
    else packer.flush(flushKind(packing.coding));
    return true;
  }

  #sendPacked(head: AnswerHead, { coding, onPacked }: Packing, length: number): boolean {
    let packed: Buffer;
    try {
      packed = packAtOnce(Buffer.concat(this.#pieces, length), coding);
    } catch (error) {
      this.#options.log.error({ err: error }, 'an answer could not be packed; it goes out as it is');
      this.#packing = undefined;
      return false;
    }
    this.#pieces = [];
    this.#sendWhole(head, coding, packed);
    onPacked?.(packed);
    return true;
  }

  #sendWhole({ status, headers }: AnswerHead, coding: PackingCoding, packed: Buffer): void {
    this.#burst.cancel();
    this.#isOver = true;
    const sent = packedHeaders(headers, coding);
    if (!this.#trailers) sent['content-length'] = String(packed.length);
    this.#writeHead(status, sent);
    if (this.#trailers) this.#response.addTrailers(this.#trailers);
    this.#response.end(packed);
  }

  #startPacker(
    { status, headers }: AnswerHead,
    { coding, onPacked }: Packing,
  ): ReturnType<typeof createPacker> {
    onPacked?.(undefined);
    const response = this.#response;
    this.#writeHead(status, packedHeaders(headers, coding));
    const packer = createPacker(coding);
    packer.on('data', (chunk: Buffer) => {
      if (!response.write(chunk)) packer.pause();
    });
    packer.on('drain', () => this.#options.resume());
    packer.on('end', () => response.end());
    packer.on('error', () => response.destroy());
    return packer;
  }

  #writeHead(status: number, headers: HeaderMap): void {
    if (this.#trailers) headers['trailer'] = Object.keys(this.#trailers).join(', ');
    this.#response.writeHead(status, headers);
  }
}

/** What speaks of the very bytes that the origin sent. */
const OF_THE_BYTES: ReadonlySet<string> = new Set(
  OF_THE_PAGES_BYTES.filter((name) => name !== 'last-modified'),
);

/** What is packed here is other bytes than the origin's, and a range of them would be another. */
function packedHeaders(headers: HeaderMap, coding: PackingCoding): HeaderMap {
  const sent: HeaderMap = {};
  for (const name in headers) if (!OF_THE_BYTES.has(name)) sent[name] = headers[name]!;
  sent['content-encoding'] = coding;
  const tag = firstOf(headers['etag']);
  if (tag?.startsWith('"') === true) sent['etag'] = `W/${tag}`;
  return sent;
}
