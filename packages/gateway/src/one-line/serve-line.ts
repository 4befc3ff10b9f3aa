import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Logger } from 'pino';
import { preferredCoding } from '../page/packing.js';
import { POINTER_FRESH_S, POINTER_STALE_S, readyFile, type Line, type ReadyFile } from './line.js';

/** Where lines are found by name. */
export interface Lines {
  /** The line of a site's environment; undefined for no site, null while nothing is published. */
  line(name: string): Line | null | undefined;
}

const FOLDER = /^\/one\/([a-z0-9.-]+?)(?:\/([0-9a-f]{8,64}))?\.js(?:\?|$)/;
const POINTER = `public, max-age=${POINTER_FRESH_S}, stale-while-revalidate=${POINTER_STALE_S}`;
const FOR_EVER = 'public, max-age=31536000, immutable';
const EMPTY = readyFile('/* Pragmatica: nothing is published yet. */\n');
/** Releases that browsers may still ask for by a pointer that they have kept. */
const KEPT = 50;

/** Serves what the one line loads, to whatever site it stands in: from memory, and packed once. */
export class LineServer {
  readonly #lines: Lines;
  readonly #log: Logger;
  /** Files of releases that were served, by name and digest. */
  readonly #past = new Map<string, ReadyFile>();

  constructor(lines: Lines, log: Logger) {
    this.#lines = lines;
    this.#log = log;
  }

  /** @returns whether it was a request for a line */
  answer(request: IncomingMessage, response: ServerResponse, target: string): boolean {
    const asked = FOLDER.exec(target);
    if (!asked || (request.method !== 'GET' && request.method !== 'HEAD')) return false;
    const [, name, digest] = asked;
    const line = this.#lines.line(name!);
    if (line === undefined) return false;
    try {
      if (line === null) send(request, response, EMPTY, POINTER);
      else if (digest === undefined) send(request, response, line.pointer(Date.now()), POINTER);
      else this.#sendRelease(request, response, line, digest);
    } catch (error) {
      // A set that cannot be made ready must not break the pages of others.
      this.#log.error({ err: error, line: name }, 'a line could not be made ready; nothing is put in');
      send(request, response, EMPTY, 'no-store');
    }
    return true;
  }

  #sendRelease(request: IncomingMessage, response: ServerResponse, line: Line, digest: string): void {
    this.#keep(`${line.name} ${line.digest}`, line.release);
    const file = this.#past.get(`${line.name} ${digest}`);
    // One that nobody remembers is answered with what is served now: a whole release, and not kept under its name.
    if (file) send(request, response, file, FOR_EVER);
    else send(request, response, line.release, 'no-store');
  }

  #keep(key: string, file: ReadyFile): void {
    if (this.#past.has(key)) return;
    if (this.#past.size >= KEPT) this.#past.delete(this.#past.keys().next().value!);
    this.#past.set(key, file);
  }
}

function send(request: IncomingMessage, response: ServerResponse, file: ReadyFile, caching: string): void {
  const headers = {
    'cache-control': caching,
    etag: file.etag,
    vary: 'Accept-Encoding',
    // Every site may load it, with integrity and under isolation, too.
    'access-control-allow-origin': '*',
    'cross-origin-resource-policy': 'cross-origin',
    'timing-allow-origin': '*',
    'x-content-type-options': 'nosniff',
  };
  const known = request.headers['if-none-match'];
  if (known !== undefined && (known.includes(file.etag) || known.trim() === '*')) {
    response.writeHead(304, headers).end();
    return;
  }
  const coding = preferredCoding(request.headers['accept-encoding'], 'br');
  const packed = coding && file.packed(coding);
  const body = packed ?? file.plain;
  response.writeHead(200, {
    ...headers,
    ...(packed ? { 'content-encoding': coding } : {}),
    'content-type': 'text/javascript; charset=utf-8',
    'content-length': body.length,
  });
  response.end(request.method === 'HEAD' ? undefined : body);
}
