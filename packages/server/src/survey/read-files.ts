import { createHash } from 'node:crypto';
import { gatherSightings, type FileVersion } from '@pragmatica/core';
import type { SiteResponse } from '../outgoing/site-request.js';
import { readBounded } from '../outgoing/read-bounded.js';
import { ReadingError } from '../reading/readers.js';
import { filesOf, saveFiles, type SurveyFileRow } from '../storage/survey-files.js';
import { composedPages, sightingsByKey } from '../storage/survey-reads.js';
import { lastDoneSurvey } from '../storage/surveys.js';
import type { OpenSurvey } from './open-survey.js';
import type { Visitor } from './visit-page.js';
import { USER_AGENT, type SurveyTools } from './tools.js';

/** Files that are asked for, those of most pages first. */
const MAX_FILES = 300;
const MAX_BYTES = 4 * 1024 * 1024;
const TIMEOUT_MS = 10_000;
/** Asking for all of them takes no longer, whatever the hosts do. */
const ALL_MS = 60_000;
const AT_ONCE = 4;
/** A whole library is read longer than a pasted code, and nobody waits for it. */
const SCRIPT_MS = 10_000;

/** A file to ask for. */
type AskedFile = Pick<SurveyFileRow, 'address' | 'kind'>;

/**
 * Asks for the scripts and style sheets that a survey's pages load, and reads what they do. Each is asked for once, as a
 * browser would, without anything that tells who asks; where it has not changed since the survey before, it is only asked
 * whether it has.
 */
export async function readFiles(
  open: OpenSurvey,
  tools: SurveyTools,
  manners: Pick<Visitor, 'rules' | 'turn'>,
  signal: AbortSignal,
): Promise<void> {
  const { survey } = open;
  const store = tools.store.fork();
  const waiting = await filesInPages(open, tools);
  const before = await lastDoneSurvey(store, { id: survey.siteId }, { ...survey, before: survey.number });
  const known = new Map((before ? await filesOf(store, before.id) : []).map((file) => [file.address, file]));
  const over = AbortSignal.any([signal, AbortSignal.timeout(ALL_MS)]);
  const files: SurveyFileRow[] = [];
  const isOver = (): boolean => over.aborted;
  const hand = async (): Promise<void> => {
    for (let file = waiting.shift(); file && !isOver(); file = waiting.shift()) {
      const { origin, pathname, search } = new URL(file.address);
      if (origin === open.base.address) {
        // Of what was handed over only the pages are there.
        if (survey.options.given !== undefined) continue;
        // The site's own files are asked for as its pages are.
        if (!manners.rules.isAllowed(pathname + search)) continue;
        await manners.turn();
      }
      const got = await askFile(file, known.get(file.address), open, tools, over);
      // What was broken off is not known, which is not the same as not there.
      if (!isOver()) files.push(got);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, hand));
  if (!signal.aborted) await saveFiles(store, survey.id, files);
}

/** What the pages load, also by our parts, those on most pages first. */
async function filesInPages(
  { survey, base }: OpenSurvey,
  { store: shared, readers }: SurveyTools,
): Promise<AskedFile[]> {
  const store = shared.fork();
  const { groups, compositions } = await composedPages(store, survey.id);
  const seen = gatherSightings(groups, compositions)
    .filter(({ states }) => states.includes('active'))
    .sort((a, b) => pagesOf(b) - pagesOf(a));
  const rows = await sightingsByKey(
    store,
    { id: survey.siteId },
    seen.map(({ key }) => key),
  );
  const byKey = new Map(rows.map((row) => [row.key, row]));
  const asked = seen.flatMap(({ key }) => {
    const row = byKey.get(key);
    if (!row || row.loads.length === 0 || (row.kind !== 'script' && row.kind !== 'style')) return [];
    return [{ code: row.code, page: base.address + row.firstPath }];
  });
  return readers.run('filesLoaded', { codes: asked, most: MAX_FILES });
}

function pagesOf({ ours, others }: { ours: { pages: number }; others: { pages: number } }): number {
  return ours.pages + others.pages;
}

async function askFile(
  file: AskedFile,
  known: SurveyFileRow | undefined,
  open: OpenSurvey,
  tools: SurveyTools,
  signal: AbortSignal,
): Promise<SurveyFileRow> {
  const nothing = { ...NOTHING, ...file };
  try {
    const response = await request(
      file,
      known,
      open,
      tools,
      AbortSignal.any([signal, AbortSignal.timeout(TIMEOUT_MS)]),
    );
    if (response.status === 304 && known) {
      await response.body?.cancel();
      return { ...known, ...file };
    }
    if (response.status !== 200) {
      await response.body?.cancel();
      return { ...nothing, status: response.status };
    }
    const bytes = await readBounded(response, MAX_BYTES);
    if (!bytes) return { ...nothing, status: 200 };
    return {
      ...nothing,
      ...describe(response, bytes, open.base.address),
      reading: await read(file, bytes, tools),
    };
  } catch {
    // Nobody answers, or it is an address of a private network.
    return nothing;
  }
}

function request(
  { address, kind }: AskedFile,
  known: SurveyFileRow | undefined,
  { base }: OpenSurvey,
  { client }: SurveyTools,
  signal: AbortSignal,
): Promise<SiteResponse> {
  const url = new URL(address);
  const headers = {
    'user-agent': USER_AGENT,
    accept: kind === 'style' ? 'text/css,*/*;q=0.1' : '*/*',
    ...(known?.integrity && known.etag !== null ? { 'if-none-match': known.etag } : {}),
    ...(known?.integrity && known.lastModified !== null ? { 'if-modified-since': known.lastModified } : {}),
  };
  // The site's own files may be behind the same password as its pages.
  if (url.origin === base.address)
    return client.get(base.address, url.pathname + url.search, {
      headers: { ...base.headers, ...headers },
      signal,
    });
  // As a browser says it for a pinned file: some servers share a file only with whoever asks so.
  return client.getElsewhere(url, {
    headers: { ...headers, origin: base.address },
    signal,
    redirects: 3,
  });
}

/** @param page - scheme and host of the pages that load it */
function describe(
  { status, headers }: SiteResponse,
  bytes: Uint8Array,
  page: string,
): Partial<SurveyFileRow> {
  const sharedWith = headers.get('access-control-allow-origin')?.trim();
  return {
    status,
    digest: createHash('sha256').update(bytes).digest('hex').slice(0, 32),
    bytes: bytes.length,
    integrity: ['sha256', 'sha384', 'sha512']
      .map((kind) => `${kind}-${createHash(kind).update(bytes).digest('base64')}`)
      .join(' '),
    isShared: sharedWith === '*' || sharedWith === page,
    contentType: headers.get('content-type')?.slice(0, 200) ?? null,
    etag: headers.get('etag')?.slice(0, 500) ?? null,
    lastModified: headers.get('last-modified')?.slice(0, 100) ?? null,
    cacheControl: headers.get('cache-control')?.slice(0, 300) ?? null,
    // The name of each (RFC 6265, 4.1.1).
    sentCookies: [
      ...new Set(headers.getSetCookie().map((cookie) => cookie.split('=', 1)[0]!.trim().slice(0, 200))),
    ].sort(),
  };
}

async function read(
  { kind }: AskedFile,
  bytes: Uint8Array,
  { readers, log }: SurveyTools,
): Promise<SurveyFileRow['reading']> {
  if (kind === 'style') return null;
  try {
    return await readers.run('scriptFile', { text: new TextDecoder().decode(bytes) }, SCRIPT_MS);
  } catch (error) {
    if (!(error instanceof ReadingError)) log.error({ err: error }, 'a file could not be read');
    return null;
  }
}

const NOTHING = {
  status: null,
  digest: null,
  bytes: null,
  integrity: null,
  isShared: false,
  contentType: null,
  etag: null,
  lastModified: null,
  cacheControl: null,
  sentCookies: [],
  reading: null,
} as const;

/** A file as the checks know it. */
export function toFileVersion({
  address,
  kind,
  status,
  bytes,
  reading,
  sentCookies,
  digest,
  integrity,
  isShared,
  lastModified,
}: SurveyFileRow): FileVersion {
  const { defines, cookies, stores, hosts } = reading ?? { defines: [], cookies: [], stores: [], hosts: [] };
  return {
    address,
    status,
    digest,
    integrity,
    isShared,
    lastModified,
    defines,
    cookies: [...new Set([...cookies, ...sentCookies])].sort(),
    stores,
    hosts,
    bytes: bytes ?? 0,
    isRead: reading !== null || (kind === 'style' && bytes !== null),
  };
}
