import type { IncomingMessage, OutgoingHttpHeader, OutgoingHttpHeaders, ServerResponse } from 'node:http';
import { PageInserter, charsetOf, originCondition } from '@pragmatica/core';
import { changeHeaders, planLoad, type PlannedLoad, type Releases } from './page-load.js';
import type { AnswerHeaders, InsertSettings } from './answer.js';

/** For Express and its like, and for servers of `node:http`, which call it before they answer. */
export type NodeMiddleware = (request: IncomingMessage, response: ServerResponse, next?: () => void) => void;

/**
 * Puts what a page gets into the HTML that this process answers with, as it streams by. Whatever fails here, the page
 * goes out as it was made. What packs answers has to come before it, so that it packs the page with its parts.
 */
export function insertParts(releases: Releases, settings: InsertSettings = {}): NodeMiddleware {
  return (request, response, next) => {
    try {
      if (request.method === 'GET' || request.method === 'HEAD')
        prepare(releases, settings, request, response);
    } catch {
      // The page goes out as it is.
    }
    next?.();
  };
}

function prepare(
  releases: Releases,
  settings: InsertSettings,
  request: IncomingMessage,
  response: ServerResponse,
): void {
  // Where an application is mounted, the address that was asked for is kept beside the one below it.
  const target = 'originalUrl' in request ? String(request.originalUrl) : request.url!;
  const load = planLoad(releases, target, request.headers.host ?? '', request.headers);
  if (!load) return;
  const { tag } = load.outcome;
  const condition = originCondition(request.headers['if-none-match'], tag, tag !== '');
  if (condition === undefined) delete request.headers['if-none-match'];
  else request.headers['if-none-match'] = condition;
  // Dates speak of the page without its parts.
  if (tag !== '') delete request.headers['if-modified-since'];
  const isSecure = 'encrypted' in request.socket;
  const address = `${isSecure ? 'https' : 'http'}://${request.headers.host ?? ''}`;
  new Answer(response, load, request.method === 'HEAD', address, settings);
}

type Callback = (error?: Error | null) => void;
type Written = [chunk?: unknown, encoding?: BufferEncoding | Callback, callback?: Callback];

/** Stands between an application and its answer. */
class Answer {
  readonly #response: ServerResponse;
  readonly #load: PlannedLoad;
  readonly #isHead: boolean;
  readonly #address: string;
  readonly #settings: InsertSettings;
  readonly #writeHead: ServerResponse['writeHead'];
  readonly #write: (...written: Written) => boolean;
  readonly #end: (...written: Written) => ServerResponse;
  /** Undefined before the headers are known, and where nothing is put in. */
  #inserter: PageInserter | undefined;
  #isDecided = false;

  /** @param address - scheme and host of the page */
  constructor(
    response: ServerResponse,
    load: PlannedLoad,
    isHead: boolean,
    address: string,
    settings: InsertSettings,
  ) {
    this.#response = response;
    this.#load = load;
    this.#isHead = isHead;
    this.#address = address;
    this.#settings = settings;
    this.#writeHead = response.writeHead.bind(response);
    this.#write = response.write.bind(response) as (...written: Written) => boolean;
    this.#end = response.end.bind(response) as (...written: Written) => ServerResponse;
    response.writeHead = (...head: unknown[]) => this.#onHead(head);
    response.write = ((...written: Written) => this.#onWrite(written)) as ServerResponse['write'];
    response.end = ((...written: Written) => this.#onEnd(written)) as ServerResponse['end'];
  }

  #onHead(head: unknown[]): ServerResponse {
    const [status, ...rest] = head as [number, ...unknown[]];
    if (this.#isDecided) return this.#writeHead(...(head as Parameters<ServerResponse['writeHead']>));
    const message = typeof rest[0] === 'string' ? rest[0] : undefined;
    setAll(this.#response, rest.at(-1) as OutgoingHttpHeaders | OutgoingHttpHeader[] | undefined);
    this.#decide(status);
    return message === undefined ? this.#writeHead(status) : this.#writeHead(status, message);
  }

  #onWrite(written: Written): boolean {
    this.#decide(this.#response.statusCode);
    if (!this.#inserter) return this.#write(...written);
    const { bytes, callback } = read(written);
    const pieces = this.#attempt((inserter) => inserter.write(bytes), bytes);
    if (pieces.length === 0) {
      if (callback) process.nextTick(callback);
      return true;
    }
    return this.#writeAll(pieces, callback);
  }

  #onEnd(written: Written): ServerResponse {
    this.#decide(this.#response.statusCode);
    if (!this.#inserter) return this.#end(...written);
    const { bytes, callback } = read(written);
    const pieces = [
      ...(bytes.length > 0 ? this.#attempt((inserter) => inserter.write(bytes), bytes) : []),
      ...this.#attempt((inserter) => inserter.end(), EMPTY),
    ];
    this.#inserter = undefined;
    this.#writeAll(pieces);
    return this.#end(undefined, callback);
  }

  /** Looks at the headers when they are about to go out. */
  #decide(status: number): void {
    if (this.#isDecided) return;
    this.#isDecided = true;
    try {
      if (this.#response.headersSent) return;
      const headers = headersOf(this.#response);
      const type = headers.get('content-type');
      const parts = changeHeaders(headers, status, this.#load, this.#address, this.#settings);
      if (!parts || this.#isHead) return;
      const encoding = charsetOf(type ?? '');
      this.#inserter = new PageInserter(parts, encoding === undefined ? {} : { encoding });
    } catch {
      // The page goes out as it is.
    }
  }

  /** What an inserter gives out; where it fails, what it has held back, and from then on the page as it is. */
  #attempt(work: (inserter: PageInserter) => Uint8Array[], given: Uint8Array): Uint8Array[] {
    const inserter = this.#inserter;
    if (!inserter) return given.length > 0 ? [given] : [];
    try {
      return work(inserter);
    } catch {
      this.#inserter = undefined;
      return [inserter.held()];
    }
  }

  #writeAll(pieces: readonly Uint8Array[], callback?: Callback): boolean {
    let mayGoOn = true;
    pieces
      .filter(({ length }) => length > 0)
      .forEach((piece, index, all) => {
        mayGoOn = index === all.length - 1 ? this.#write(piece, callback) : this.#write(piece);
      });
    return mayGoOn;
  }
}

const EMPTY = new Uint8Array(0);

function read([chunk, encoding, callback]: Written): { bytes: Uint8Array; callback: Callback | undefined } {
  const called = [chunk, encoding, callback].find((one) => typeof one === 'function') as Callback | undefined;
  if (chunk === undefined || chunk === null || typeof chunk === 'function')
    return { bytes: EMPTY, callback: called };
  const bytes =
    typeof chunk === 'string'
      ? Buffer.from(chunk, typeof encoding === 'string' ? encoding : 'utf8')
      : (chunk as Uint8Array);
  return { bytes, callback: called };
}

/** Headers that are handed to `writeHead`, in either of its forms. */
function setAll(
  response: ServerResponse,
  headers: OutgoingHttpHeaders | OutgoingHttpHeader[] | string | undefined,
): void {
  if (typeof headers !== 'object') return;
  const pairs = Array.isArray(headers)
    ? Array.from({ length: headers.length / 2 }, (_, i) => [headers[2 * i], headers[2 * i + 1]] as const)
    : Object.entries(headers);
  for (const [name, value] of pairs) if (value !== undefined) response.setHeader(String(name), value);
}

function headersOf(response: ServerResponse): AnswerHeaders {
  return {
    get(name) {
      const value = response.getHeader(name);
      return value === undefined ? undefined : String(value);
    },
    set: (name, value) => void response.setHeader(name, value),
    remove: (name) => response.removeHeader(name),
  };
}
