import type { Transform } from 'node:stream';
import type { InsertOutcome, PageInserter, PreparedParts } from '@pragmatica/core';
import type { Coding } from './codings.js';

/** Makes the inserter; replaced in tests that let it fail. */
export type InserterFactory = (
  parts: PreparedParts,
  encoding: string | undefined,
) => Pick<PageInserter, 'write' | 'end' | 'held' | 'outcomes' | 'edits' | 'abandon'>;

/** What happens to a page on its way: bytes go in, and come out through `Output`. */
export interface PageSink {
  write(chunk: Buffer): void;
  end(): void;
  /** The way is cut off. */
  destroy(): void;
}

export interface Output {
  write(pieces: readonly Uint8Array[]): void;
  end(): void;
  /** No more bytes are wanted for the moment, or again. */
  pause(): void;
  resume(): void;
  /** Something of ours failed; what comes out from here on is the page as the origin sent it. */
  failed(error: unknown): void;
  /** Nothing has come out, and nothing can be undone: the origin's bytes go out as they are, with its headers. */
  giveBack(received: readonly Buffer[], error: unknown): void;
  /** The origin's own answer is broken after part of it has gone out. */
  broken(error: unknown): void;
  done(outcomes: readonly InsertOutcome[]): void;
}

type Inserter = ReturnType<InserterFactory>;

/** A page that is not compressed. */
export class PlainPageSink implements PageSink {
  readonly #inserter: Inserter;
  readonly #output: Output;
  #hasFailed = false;

  constructor(inserter: Inserter, output: Output) {
    this.#inserter = inserter;
    this.#output = output;
  }

  write(chunk: Buffer): void {
    if (this.#hasFailed) this.#output.write([chunk]);
    else this.#attempt(() => this.#inserter.write(chunk));
  }

  end(): void {
    if (!this.#hasFailed) this.#attempt(() => this.#inserter.end());
    if (!this.#hasFailed) this.#output.done(this.#inserter.outcomes);
    this.#output.end();
  }

  destroy(): void {
    if (!this.#hasFailed) this.#inserter.abandon();
    this.#hasFailed = true;
  }

  #attempt(run: () => Uint8Array[]): void {
    let pieces: Uint8Array[];
    try {
      pieces = run();
    } catch (error) {
      this.#hasFailed = true;
      this.#output.failed(error);
      pieces = [this.#inserter.held()];
    }
    if (pieces.length > 0) this.#output.write(pieces);
  }
}

/** So much of what was received is kept until the coding has proved to be what it says. */
const MAX_KEPT = 1 << 18;
/** A page that unpacks to more than this is cut off: no visitor's page is so long. */
const MAX_UNPACKED_LENGTH = 1 << 28;

/** A compressed page: unpacked, given its parts, and packed again. */
export class CodedPageSink implements PageSink {
  readonly #decoder: Transform;
  readonly #encoder: Transform;
  readonly #page: PlainPageSink;
  readonly #output: Output;
  /** What came in, as long as nothing has come out. */
  #received: Buffer[] | undefined = [];
  #receivedLength = 0;
  #unpacked = 0;

  constructor({ decoder, encoder }: Coding, inserter: Inserter, output: Output) {
    this.#decoder = decoder;
    this.#encoder = encoder;
    this.#output = output;
    const page = (this.#page = new PlainPageSink(inserter, {
      ...output,
      write: (pieces) => {
        for (const piece of pieces) if (piece.length > 0 && !encoder.write(piece)) decoder.pause();
      },
      end: () => encoder.end(),
      failed: (error) => output.failed(error),
      done: (outcomes) => output.done(outcomes),
    }));
    encoder.on('drain', () => decoder.resume());
    encoder.on('error', (error) => this.#fail(error));
    encoder.on('data', (chunk: Buffer) => {
      this.#received = undefined;
      output.write([chunk]);
    });
    encoder.on('end', () => output.end());
    decoder.on('error', (error) => this.#fail(error));
    decoder.on('drain', () => output.resume());
    decoder.on('data', (chunk: Buffer) => {
      this.#unpacked += chunk.length;
      if (this.#unpacked > MAX_UNPACKED_LENGTH) this.#fail(new Error('the page unpacks to too much'));
      else page.write(chunk);
    });
    decoder.on('end', () => page.end());
  }

  write(chunk: Buffer): void {
    if (this.#received) {
      this.#received.push(chunk);
      this.#receivedLength += chunk.length;
      if (this.#receivedLength > MAX_KEPT) this.#received = undefined;
    }
    if (!this.#decoder.destroyed && !this.#decoder.write(chunk)) this.#output.pause();
  }

  end(): void {
    this.#decoder.end();
  }

  destroy(): void {
    this.#page.destroy();
    this.#decoder.destroy();
    this.#encoder.destroy();
  }

  #fail(error: Error): void {
    const received = this.#received;
    this.#received = undefined;
    this.destroy();
    if (received) this.#output.giveBack(received, error);
    else this.#output.broken(error);
  }
}
