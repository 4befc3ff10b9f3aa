import { Readable, pipeline } from 'node:stream';
import { createGunzip } from 'node:zlib';
import sax from 'sax';
import type { SiteResponse } from '../outgoing/site-request.js';
import { bodyOf } from '../outgoing/read-bounded.js';
import { PAGES_TEXTS } from '../texts/pages.js';
import { say } from '../texts/say.js';

export interface Sitemap {
  /** Addresses of the pages that it names, as they stand there. */
  readonly pages: readonly string[];
  /** Addresses of further sitemaps, for an index. */
  readonly sitemaps: readonly string[];
}

export interface SitemapLimits {
  readonly pages: number;
  readonly sitemaps: number;
  readonly bytes: number;
}

const MAX_ADDRESS_LENGTH = 2_048;

/** The sitemap is no XML, or longer than anybody's. */
export class SitemapError extends Error {
  override name = 'SitemapError';
}

/**
 * Reads a sitemap (sitemaps.org protocol) as it comes, and stops at the limits: no more is read, whatever is sent.
 *
 * @throws SitemapError
 */
export async function readSitemap(response: SiteResponse, limits: SitemapLimits): Promise<Sitemap> {
  const reader = new SitemapReader(limits);
  const decoder = new TextDecoder();
  let bytes = 0;
  // Leaving the loop early ends the answer.
  for await (const chunk of await unpacked(bodyOf(response))) {
    bytes += chunk.length;
    if (bytes > limits.bytes)
      throw new SitemapError(say(PAGES_TEXTS.tooLong, { megabytes: limits.bytes >> 20 }));
    reader.write(decoder.decode(chunk, { stream: true }));
    if (reader.isFull) break;
  }
  return reader;
}

/** What may be packed as a file (sitemaps.org protocol: gzip), whatever the answer says of it. */
async function unpacked(body: AsyncIterable<Uint8Array>): Promise<AsyncIterable<Uint8Array>> {
  const chunks = body[Symbol.asyncIterator]();
  const first = await chunks.next();
  if (first.done === true) return none();
  const whole = rejoined(first.value, chunks);
  const isGzip = first.value[0] === 0x1f && first.value[1] === 0x8b;
  if (!isGzip) return whole;
  // What goes wrong on the way is thrown to whoever reads.
  return pipeline(Readable.from(whole), createGunzip(), () => undefined);
}

async function* none(): AsyncGenerator<Uint8Array> {
  // Nothing came.
}

async function* rejoined(first: Uint8Array, rest: AsyncIterator<Uint8Array>): AsyncGenerator<Uint8Array> {
  try {
    yield first;
    for (let next = await rest.next(); next.done !== true; next = await rest.next()) yield next.value;
  } finally {
    await rest.return?.();
  }
}

class SitemapReader implements Sitemap {
  readonly pages: string[] = [];
  readonly sitemaps: string[] = [];
  readonly #limits: SitemapLimits;
  readonly #parser = new sax.SAXParser(true);
  readonly #path: string[] = [];
  #text = '';

  constructor(limits: SitemapLimits) {
    this.#limits = limits;
    this.#parser.onerror = () => {
      throw new SitemapError(PAGES_TEXTS.noXml);
    };
    this.#parser.onopentag = ({ name }) => {
      this.#path.push(name);
      this.#text = '';
      if (this.#path.length > 8) throw new SitemapError(PAGES_TEXTS.noSitemap);
    };
    this.#parser.ontext = this.#parser.oncdata = (text) => {
      if (this.#path.at(-1) === 'loc' && this.#text.length <= MAX_ADDRESS_LENGTH) this.#text += text;
    };
    this.#parser.onclosetag = () => {
      const [element, parent] = [this.#path.pop(), this.#path.at(-1)];
      if (element === 'loc') this.#found(parent);
    };
  }

  get isFull(): boolean {
    return this.pages.length >= this.#limits.pages || this.sitemaps.length >= this.#limits.sitemaps;
  }

  write(text: string): void {
    this.#parser.write(text);
  }

  #found(parent: string | undefined): void {
    const address = this.#text.trim();
    if (this.isFull || address === '' || address.length > MAX_ADDRESS_LENGTH) return;
    if (parent === 'url') this.pages.push(address);
    else if (parent === 'sitemap') this.sitemaps.push(address);
  }
}
