import { Response } from 'undici';
import { givenPage } from '../storage/given-pages.js';
import type { Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import type { SiteAsker } from './site-client.js';
import type { SiteRequest, SiteResponse } from './site-request.js';

/** Pages that somebody handed over, asked for as if a server held them; whatever is not among them is not there. */
export class GivenSite implements SiteAsker {
  constructor(
    readonly store: Store,
    readonly site: Pick<Site, 'id'>,
    readonly set: string,
  ) {}

  async get(_base: string, path: string, { headers = {} }: SiteRequest = {}): Promise<SiteResponse> {
    const known = /^"(\w+)"$/.exec(headers['if-none-match'] ?? '')?.[1];
    const page = await givenPage(this.store.fork(), this.site, this.set, path, known);
    if (!page) return new Response(null, { status: 404 });
    const etag = `"${page.digest}"`;
    if (page.body === null) return new Response(null, { status: 304, headers: { etag } });
    return new Response(page.body, { status: page.status, headers: { ...page.headers, etag } });
  }
}
