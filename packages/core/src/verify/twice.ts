import { isCacheBuster } from '../facts/index.js';
import type { LoadEvidence, SeenRequest } from '../visit/index.js';
import type { Owner } from './attribution.js';
import type { LoadCase } from './judge-load.js';
import { isWell } from './rungs/request-causes.js';

/** Who has caused one of several equal things. */
export interface Source {
  /** Null for the page itself. */
  readonly snippet: string | null;
  readonly name: string;
  /** Files between the code and the thing. */
  readonly via: readonly string[];
}

/** Something that happened twice in one page load. */
export interface Doubled {
  readonly kind:
    /** One file ran more than once. */
    | 'file'
    /** One thing was reported to one account more than once. */
    | 'report';
  readonly url: string;
  readonly count: number;
  readonly sources: readonly Source[];
}

const REPORTING: readonly SeenRequest['kind'][] = ['image', 'fetch', 'beacon', 'other'];

/**
 * What one page load did twice: a file that ran twice, and reports that say the same to the same account by two ways, also those
 * that only come up at run time.
 */
export function doubledOf(load: LoadEvidence, opened: LoadCase): readonly Doubled[] {
  const files = doubledFiles(load, opened);
  const reports = doubledReports(load, opened);
  // Reports that are doubled because their file is are the same finding.
  return [
    ...files,
    ...reports.filter((report) => !files.some((file) => hostOf(file.url) === hostOf(report.url))),
  ];
}

/** A file that runs twice is asked for once where the browser kept it, so what ran is counted. */
function doubledFiles(load: LoadEvidence, opened: LoadCase): readonly Doubled[] {
  const runs = new Map<string, { url: string; count: number; owners: Owner[] }>();
  const asked = load.requests.filter(({ kind, frame }) => kind === 'script' && frame === undefined);
  const own = new Set(asked.map(({ url }) => url));
  for (const script of load.scripts) {
    if (!own.has(script.url) || !script.isParsed || opened.attribution.isCarrier(script.id)) continue;
    const key = withoutChance(script.url);
    const entry = runs.get(key) ?? { url: script.url, count: 0, owners: [] };
    entry.count++;
    entry.owners.push(opened.attribution.ofScript(script.id));
    runs.set(key, entry);
  }
  return [...runs.values()]
    .filter(({ count }) => count > 1)
    .map(({ url, count, owners }) => ({ kind: 'file', url, count, sources: sourcesOf(owners, opened) }));
}

function doubledReports(load: LoadEvidence, opened: LoadCase): readonly Doubled[] {
  const groups = new Map<string, SeenRequest[]>();
  for (const request of load.requests) {
    if (!REPORTING.includes(request.kind) || request.redirect !== undefined || !isWell(request)) continue;
    // A picture of the page without anything to say reports nothing.
    if (!request.url.includes('?') && request.body === undefined) continue;
    const key = `${request.method} ${withoutChance(request.url)} ${withoutChance(request.body ?? '')}`;
    groups.set(key, [...(groups.get(key) ?? []), request]);
  }
  return [...groups.values()].flatMap((requests): Doubled[] => {
    if (requests.length < 2) return [];
    const owners = requests.map((request) => opened.attribution.ofRequest(request));
    const callers = new Set(
      requests.map(
        ({ initiator }) =>
          initiator.stack.map(({ script }) => script).join('<') ||
          `${initiator.line ?? ''}:${initiator.column ?? ''}`,
      ),
    );
    // What one script says again and again, it means to.
    if (callers.size < 2) return [];
    return [
      { kind: 'report', url: requests[0]!.url, count: requests.length, sources: sourcesOf(owners, opened) },
    ];
  });
}

/** Whose doing each was; what nobody knows is left out. */
function sourcesOf(owners: readonly Owner[], opened: LoadCase): readonly Source[] {
  const sources = new Map<string, Source>();
  for (const owner of owners) {
    if (owner.kind === 'unknown') continue;
    const snippet = owner.kind === 'snippet' ? owner.snippet : null;
    const name = snippet === null ? '' : opened.nameOf(snippet);
    const { via } = owner;
    sources.set(`${snippet ?? ''} ${via.join(' ')}`, { snippet, name, via });
  }
  return [...sources.values()];
}

function hostOf(url: string): string {
  return URL.canParse(url) ? new URL(url).host : url;
}

/** Values that differ each time without meaning anything: random numbers, moments, one-time ids. */
const CHANCE = /^(?:0?\.\d{6,}|\d{9,}|[0-9a-f]{16,}|[0-9a-f]{8}-[0-9a-f-]{27})$/i;

function withoutChance(url: string): string {
  const [path = '', query = ''] = url.split('?', 2);
  const kept = [...new URLSearchParams(query)].filter(
    ([name, value]) => !isCacheBuster(name) && !CHANCE.test(value) && !/^\d+\.\d{4,}$/.test(value),
  );
  return `${path}?${kept
    .map(([name, value]) => `${name}=${value}`)
    .sort()
    .join('&')}`;
}
