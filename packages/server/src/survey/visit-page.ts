import { createHash } from 'node:crypto';
import {
  isWithoutPolicies,
  pageAddress,
  pageOf,
  pagePolicies,
  sectionOf,
  type Composition,
  type PlannedPart,
  type Carrier,
  type ReleasePlanner,
} from '@pragmatica/core';
import type { Logger } from 'pino';
import type { SiteAsker } from '../outgoing/site-client.js';
import type { SiteResponse } from '../outgoing/site-request.js';
import { deadline } from '../outgoing/deadline.js';
import { readBounded } from '../outgoing/read-bounded.js';
import { ReadingError, type Readers } from '../reading/readers.js';
import type { DeferredText, NewSighting } from '../storage/survey-contents.js';
import type { PageOutcome, ReadPageRow, TakenPage } from '../storage/survey-pages.js';
import type { RobotsRules } from './robots.js';
import type { SurveyBase } from './survey-base.js';

/** What a visit is made with. */
export interface Visitor {
  readonly client: SiteAsker;
  readonly readers: Readers;
  readonly base: SurveyBase;
  readonly rules: RobotsRules;
  readonly host: string;
  readonly plans: PlannedParts | undefined;
  /** Another one where what the readers handed out may have been lost. */
  readonly edition: string;
  readonly signal: AbortSignal;
  readonly log: Logger;
  /** Waits until the site may be asked again. */
  turn(): Promise<void>;
}

/** What a visit brought. */
export type Visited =
  | { readonly kind: 'unchanged'; readonly id: number; readonly beforeId: number }
  | { readonly kind: 'later'; readonly id: number; readonly afterMs: number }
  | VisitedPage;

export interface VisitedPage {
  readonly kind: 'done';
  readonly page: TakenPage;
  /** Without what is kept apart. */
  readonly row: Omit<ReadPageRow, 'skeletonId' | 'policiesId' | 'compositionId'>;
  readonly contents: PageContents | undefined;
  /** Pages of the site that it leads to. */
  readonly links: readonly string[];
  /** The page that it sends visitors on to. */
  readonly redirect: string | undefined;
}

export interface PageContents {
  readonly skeleton: DeferredText;
  readonly policies: DeferredText | undefined;
  readonly composition: { readonly digest: string; readonly body: Composition };
  /** Of items that are seen for the first time, as far as the reader knows. */
  readonly sightings: readonly NewSighting[];
  readonly codes: readonly DeferredText[];
}

const TIMEOUT_MS = 20_000;
const MAX_BYTES = 8 * 1024 * 1024;
const MAX_ATTEMPTS = 3;
const FIRST_RETRY_MS = 1_000;
const MAX_RETRY_MS = 60_000;

/** Asks for one page and reads it. Never throws, but when the survey is over. */
export async function visitPage(page: TakenPage, visitor: Visitor): Promise<Visited> {
  if (!visitor.rules.isAllowed(page.path)) return done(page, null, 'forbidden');
  await visitor.turn();
  const until = deadline(visitor.signal, TIMEOUT_MS);
  try {
    const response = await visitor.client.get(visitor.base.address, page.path, {
      headers: {
        ...visitor.base.headers,
        accept: 'text/html,application/xhtml+xml;q=0.9,*/*;q=0.1',
        ...(page.etag === null ? {} : { 'if-none-match': page.etag }),
        ...(page.lastModified === null ? {} : { 'if-modified-since': page.lastModified }),
      },
      signal: until.signal,
    });
    return await readResponse(page, response, visitor);
  } catch (error) {
    if (visitor.signal.aborted) throw error;
    return page.attempts < MAX_ATTEMPTS ? later(page) : done(page, null, 'unreachable');
  } finally {
    until.end();
  }
}

async function readResponse(page: TakenPage, response: SiteResponse, visitor: Visitor): Promise<Visited> {
  const { status, headers } = response;
  const location = headers.get('location');
  if (status === 304 && page.beforeId !== null) {
    await response.body?.cancel();
    return { kind: 'unchanged', id: page.id, beforeId: page.beforeId };
  }
  const isBusy = status === 429 || status === 503 || status === 502 || status === 504;
  if (isBusy && page.attempts < MAX_ATTEMPTS) {
    await response.body?.cancel();
    return later(page, headers.get('retry-after'));
  }
  if (status >= 300 && status < 400 && location !== null) {
    await response.body?.cancel();
    const url = `${visitor.base.address}${page.path}`;
    const target = URL.canParse(location, url) ? new URL(location, url).href : location;
    const own = pageOf(target, visitor.base.isOwnHost);
    return { ...done(page, status, 'redirect', { leadsTo: own ?? target }), redirect: own };
  }
  const type = headers.get('content-type') ?? '';
  if (!/^\s*(?:text\/html|application\/xhtml\+xml)\b/i.test(type)) {
    await response.body?.cancel();
    return done(page, status, status >= 400 ? 'error' : 'not-html', {
      leadsTo: type.slice(0, 200) || undefined,
    });
  }
  const bytes = await readBounded(response, MAX_BYTES);
  if (!bytes) return done(page, status, 'too-large');
  return readContents(page, response, bytes, visitor);
}

async function readContents(
  page: TakenPage,
  response: SiteResponse,
  bytes: Uint8Array,
  { base, readers, host, plans, edition, signal, log }: Visitor,
): Promise<Visited> {
  const { status, headers } = response;
  const parts = plans?.of(page.path, host) ?? [];
  const url = `${base.address}${page.path}`;
  const source = { url, status, bytes, headers: Object.fromEntries(headers) };
  try {
    const { reading, composition, sightings, codes } = await readers.run('surveyPage', {
      source,
      parts,
      carrier: plans?.carrier,
      edition,
    });
    const own = (address: string | undefined): string | undefined =>
      address === undefined ? undefined : (pageOf(address, base.isOwnHost) ?? address);
    const canonical = own(reading.canonical);
    const leadsTo = own(reading.refresh);
    const policies = isWithoutPolicies(reading) ? undefined : kept(JSON.stringify(pagePolicies(reading)));
    return {
      kind: 'done',
      page,
      row: {
        id: page.id,
        status,
        outcome: 'read',
        title: reading.title.replaceAll('\0', ''),
        type: reading.type,
        section: sectionOf(page.path),
        language: reading.language.slice(0, 100),
        charset: reading.charset.name,
        charsetFrom: reading.charset.from,
        // What names itself says nothing.
        canonical: canonical === page.path ? undefined : canonical?.slice(0, 1_000),
        leadsTo: leadsTo === page.path ? undefined : leadsTo?.slice(0, 1_000),
        etag: headers.get('etag')?.slice(0, 500),
        lastModified: headers.get('last-modified')?.slice(0, 100),
        bytes: bytes.length,
        starts: reading.starts,
        traits: reading.traits,
      },
      contents: {
        skeleton: kept(reading.skeleton),
        policies,
        composition: { digest: digestOf(JSON.stringify(composition)), body: composition },
        sightings,
        codes,
      },
      links: status < 400 ? reading.links.flatMap((link) => pageOf(link, base.isOwnHost) ?? []) : [],
      redirect: leadsTo?.startsWith('/') ? leadsTo : undefined,
    };
  } catch (error) {
    if (signal.aborted) throw error;
    // What takes too long to read, or is nested deeper than browsers nest; a page that we fail at costs only itself.
    const isExpected =
      error instanceof ReadingError || (error instanceof Error && error.name === 'TooMuchError');
    if (!isExpected) log.error({ err: error, path: page.path }, 'a page could not be read');
    return done(page, status, 'unreadable', { bytes: bytes.length });
  }
}

function done(
  page: TakenPage,
  status: number | null,
  outcome: PageOutcome,
  more: Partial<ReadPageRow> = {},
): VisitedPage {
  return {
    kind: 'done',
    page,
    row: { id: page.id, status, outcome, section: sectionOf(page.path), ...more },
    contents: undefined,
    links: [],
    redirect: undefined,
  };
}

/** @param retryAfter - seconds, or a date (RFC 9110, 10.2.3) */
function later(page: TakenPage, retryAfter: string | null = null): Visited {
  const asked =
    retryAfter === null
      ? NaN
      : /^\d+$/.test(retryAfter)
        ? Number(retryAfter) * 1000
        : Date.parse(retryAfter) - Date.now();
  const afterMs = Number.isNaN(asked) ? FIRST_RETRY_MS * 2 ** (page.attempts - 1) : asked;
  return { kind: 'later', id: page.id, afterMs: Math.round(Math.min(Math.max(afterMs, 100), MAX_RETRY_MS)) };
}

function kept(body: string): DeferredText {
  return { digest: digestOf(body), body };
}

function digestOf(text: string): string {
  return createHash('sha256').update(text).digest('hex').slice(0, 32);
}

/** What the plan asks for on pages, worked out once for pages that are alike. */
export class PlannedParts {
  readonly #planner: ReleasePlanner;
  readonly #byTag = new Map<string, readonly PlannedPart[]>();

  constructor(
    planner: ReleasePlanner,
    readonly carrier: Carrier,
  ) {
    this.#planner = planner;
  }

  /** As a visitor of whom nothing is known gets it now. */
  of(path: string, host: string): readonly PlannedPart[] {
    const page = pageAddress(path, host);
    const { tag } = this.#planner.page(page).outcome({}, Date.now());
    let parts = this.#byTag.get(tag);
    if (!parts) {
      const load = { page, device: 'desktop', consent: [], at: Date.now() } as const;
      this.#byTag.set(tag, (parts = this.#planner.plan(load).parts));
    }
    return parts;
  }
}
