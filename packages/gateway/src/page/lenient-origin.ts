import { request as requestHttp, type IncomingMessage } from 'node:http';
import { connect as connectTcp, type Socket } from 'node:net';
import { Duplex } from 'node:stream';
import { connect as connectTls, rootCertificates } from 'node:tls';
import { localhostLookup } from '@pragmatica/contract/node';
import type { HeaderMap } from './headers.js';

/** Heads beyond this are refused here, too. */
const MAX_HEAD_LENGTH = 64 << 10;
const LF = 0x0a;
const CR = 0x0d;

/**
 * Makes the head of an answer one that a strict parser takes, where there is only one way to mean it: lines that end in
 * a bare LF, control characters in values, one length said twice. What could be understood in two ways stays as it is,
 * and is refused. @returns undefined for no head
 */
export function repairedHead(head: string): string {
  const lengths = new Set<string>();
  const lines = head.split(/\r?\n/).filter((line, index) => {
    const length = index === 0 ? undefined : /^content-length[ \t]*:([ \t\d]*)$/i.exec(line)?.[1]?.trim();
    if (length === undefined) return true;
    const isKnown = lengths.has(length);
    lengths.add(length);
    return !isKnown;
  });
  return (
    lines
      // A tab may stand in a value, no other control character.
      .map((line) => line.replace(/(?!\t)\p{Cc}/gu, ' ').replace(/^([\w-]+)[ \t]+:/, '$1:'))
      .join('\r\n')
  );
}

/** A connection whose answers' heads are repaired on their way; bodies pass untouched. */
class RepairingConnection extends Duplex {
  readonly #socket: Socket;
  /** What has come of a head; undefined once the last one has passed. */
  #head: Buffer | undefined = Buffer.alloc(0);

  constructor(socket: Socket) {
    super({ allowHalfOpen: true });
    this.#socket = socket;
    socket.on('data', (chunk: Buffer) => this.#received(chunk));
    socket.on('end', () => {
      if (this.#head?.length) this.push(this.#head);
      this.push(null);
    });
    socket.on('error', (error) => this.destroy(error));
    socket.on('close', () => this.destroy());
  }

  override _read(): void {
    this.#socket.resume();
  }

  override _write(chunk: Buffer, _encoding: BufferEncoding, done: (error?: Error | null) => void): void {
    this.#socket.write(chunk, done);
  }

  override _destroy(error: Error | null, done: (error: Error | null) => void): void {
    this.#socket.destroy();
    done(error);
  }

  #received(chunk: Buffer): void {
    if (!this.#head) {
      if (!this.push(chunk)) this.#socket.pause();
      return;
    }
    this.#head = Buffer.concat([this.#head, chunk]);
    for (let end = headEnd(this.#head); end > 0; end = headEnd(this.#head)) {
      const head = this.#head.subarray(0, end).toString('latin1').trimEnd();
      const rest = this.#head.subarray(end);
      this.push(Buffer.from(`${repairedHead(head)}\r\n\r\n`, 'latin1'));
      // Interim answers have heads of their own before the last one.
      this.#head = /^HTTP\/1\.\d 1\d\d/.test(head) ? rest : undefined;
      if (!this.#head) {
        if (rest.length > 0) this.push(rest);
        return;
      }
    }
    if (this.#head.length > MAX_HEAD_LENGTH) this.destroy(new Error('the head of the answer is too long'));
  }
}

/** Behind the empty line that ends a head; -1 where it has not come. */
function headEnd(bytes: Buffer): number {
  for (let at = bytes.indexOf(LF); at >= 0; at = bytes.indexOf(LF, at + 1)) {
    if (bytes[at + 1] === LF) return at + 2;
    if (bytes[at + 1] === CR && bytes[at + 2] === LF) return at + 3;
  }
  return -1;
}

export interface LenientRequest {
  readonly origin: string;
  readonly method: string;
  readonly path: string;
  readonly headers: HeaderMap;
  readonly ca: string | undefined;
  readonly timeoutMs: number;
}

export interface LenientHandler {
  response(status: number, headers: IncomingMessage['headers']): void;
  data(chunk: Buffer): boolean;
  end(): void;
  failed(error: Error): void;
}

export interface LenientExchange {
  resume(): void;
  pause(): void;
  abort(): void;
}

/**
 * Asks an origin whose answers the strict parser refuses. Each request has a connection of its own, which ends with it:
 * whatever such a server adds to its answer, nobody else gets it.
 */
export function askLeniently(request: LenientRequest, handler: LenientHandler): LenientExchange {
  const url = new URL(request.origin);
  const isTls = url.protocol === 'https:';
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const port = Number(url.port) || (isTls ? 443 : 80);
  const socket = isTls
    ? connectTls({
        host,
        port,
        servername: host,
        lookup: localhostLookup,
        ...(request.ca === undefined ? {} : { ca: [...rootCertificates, request.ca] }),
      })
    : connectTcp({ host, port, lookup: localhostLookup });
  let answer: IncomingMessage | undefined;
  const outgoing = requestHttp({
    createConnection: () => new RepairingConnection(socket),
    method: request.method,
    path: request.path,
    headers: { ...request.headers, connection: 'close' },
    maxHeaderSize: MAX_HEAD_LENGTH,
  });
  socket.setTimeout(request.timeoutMs, () => socket.destroy(new Error('the origin does not answer')));
  outgoing.on('response', (response) => {
    answer = response;
    handler.response(response.statusCode!, response.headers);
    response.on('data', (chunk: Buffer) => {
      if (!handler.data(chunk)) response.pause();
    });
    response.on('end', () => handler.end());
    response.on('error', (error) => handler.failed(error));
  });
  outgoing.on('error', (error) => {
    if (!answer) handler.failed(error);
  });
  outgoing.end();
  return {
    resume: () => answer?.resume(),
    pause: () => answer?.pause(),
    abort: () => outgoing.destroy(),
  };
}
