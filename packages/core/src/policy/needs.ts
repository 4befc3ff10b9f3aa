import { hostOf, type FactsCache, type Load } from '../facts/index.js';
import { toPlanned } from '../plan/index.js';
import type { EnvironmentName } from '../reach/index.js';
import { filledSnapshot, orderedParts, type Snapshot } from '../snapshot/index.js';
import { hashSource, type PolicyRequest } from './content-policy.js';
import { policyRequests, type AskedOfPolicy } from './requests.js';

/** One thing that a policy has to let in for a part to work. */
export interface PolicyNeed {
  readonly request: PolicyRequest;
  /** What lets it in, as it is written in a policy: a host, `'self'`, a scheme, a hash. */
  readonly source: string;
  /** The address that is asked for; undefined for what stands in the page. */
  readonly address?: string;
  /** It is a tag in the page, which can carry a nonce. */
  readonly isTag: boolean;
}

/**
 * What the parts of a set ask of a page's policy, by part, as far as their code tells: what a loaded file loads in its turn is
 * known to browsers only, which report it.
 *
 * @returns by key of the part; parts of snippets that are not on are not there
 */
export function policyNeedsOf(
  snapshot: Snapshot,
  environment: EnvironmentName,
  memory: FactsCache,
): ReadonlyMap<string, readonly PolicyNeed[]> {
  const placed = orderedParts(filledSnapshot(snapshot, environment)).filter(
    ({ snippet }) => snippet.state === 'on',
  );
  return new Map(
    placed.map((one) => [one.key, partNeeds(one.part.code, toPlanned(one).code, memory)] as const),
  );
}

/** @param written - the code as it goes into pages, where that is not the code as it is */
export function partNeeds(code: string, written: string, memory: FactsCache): readonly PolicyNeed[] {
  const standing =
    written === code ? policyRequests(code) : [...policyRequests(written), ...policyRequests(code)];
  const { facts } = memory.read(code);
  return distinct([...standing.flatMap(needOfStanding), ...facts.loads.flatMap((load) => needOfLoad(load))]);
}

const INLINE = new Set<PolicyRequest>(['inline-script', 'inline-style', 'handler']);

function needOfStanding({ request, what }: AskedOfPolicy): PolicyNeed[] {
  if (INLINE.has(request)) return [{ request, source: hashSource(what), isTag: request !== 'handler' }];
  const source = sourceOf(what);
  return source === undefined ? [] : [{ request, source, address: what, isTag: true }];
}

const REQUESTS: Readonly<Record<Load['kind'], PolicyRequest | undefined>> = {
  script: 'script',
  style: 'style',
  image: 'image',
  frame: 'frame',
  font: 'font',
  data: 'connect',
  hint: undefined,
};

function needOfLoad({ kind, by, address, noScript }: Load): PolicyNeed[] {
  const request = kind === 'data' && by === 'tag' ? 'media' : REQUESTS[kind];
  const source = sourceOf(address);
  // Where there are no scripts, there is nobody to be stopped from loading them.
  if (!request || source === undefined || (noScript && kind === 'script')) return [];
  // The tags that can carry a nonce were seen where they stand.
  return [{ request, source, address, isTag: by === 'tag' }];
}

/** Something that is not known before the script runs. */
const HOLE = '…';

/** What lets an address in: its host and port, `'self'` for the site's own, its scheme where it has no host. */
function sourceOf(address: string): string | undefined {
  const trimmed = address.trim();
  const host = hostOf(trimmed);
  if (host !== undefined) {
    const port = /^(?:[a-z]+:)?\/\/[^/?#\\]*?(:\d+)(?:[/?#\\]|$)/i.exec(trimmed)?.[1] ?? '';
    return isHostSource(host) ? host + port : undefined;
  }
  const scheme = /^([a-z][a-z0-9+.-]*:)/i.exec(trimmed)?.[1]?.toLowerCase();
  if (scheme !== undefined) return scheme === 'data:' || scheme === 'blob:' ? scheme : undefined;
  return trimmed.startsWith(HOLE) || trimmed === '' ? undefined : "'self'";
}

/** What can be written as a host in a policy (CSP Level 3, 2.3.1): no `;`, no white space, nothing else that ends a source. */
function isHostSource(host: string): boolean {
  return /^[a-z0-9-]+(?:\.[a-z0-9-]+)*\.?$/.test(host);
}

function distinct(needs: readonly PolicyNeed[]): readonly PolicyNeed[] {
  const found = new Map<string, PolicyNeed>();
  for (const need of needs) {
    const key = `${need.request} ${need.source} ${need.address ?? ''}`;
    const known = found.get(key);
    if (!known || (need.isTag && !known.isTag)) found.set(key, need);
  }
  return [...found.values()];
}
