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
 * What the parts of a set ask of a page's policy, by part, as far as their code tells, and that of the files that it loads. What
 * is loaded beyond that browsers report.
 *
 * @param filesOf - what is known of a file that a code loads
 * @returns by key of the part; parts of snippets that are not on are not there
 */
export function policyNeedsOf(
  snapshot: Snapshot,
  environment: EnvironmentName,
  memory: FactsCache,
  filesOf: (address: string) => FileAsks | undefined = () => undefined,
): ReadonlyMap<string, readonly PolicyNeed[]> {
  const placed = orderedParts(filledSnapshot(snapshot, environment)).filter(
    ({ snippet }) => snippet.state === 'on',
  );
  return new Map(
    placed.map((one) => [one.key, partNeeds(one.part.code, toPlanned(one).code, memory, filesOf)] as const),
  );
}

/** What a loaded file asks for in its turn, as far as it is known: kinds of things, each with its host. */
export interface FileAsks {
  readonly asks?: readonly string[];
}

/** What a script asks for, as short texts. */
export function fileNeeds(loads: readonly Load[]): string[] {
  const asked = loads.flatMap((load) => {
    const [need] = needOfLoad({ ...load, by: 'script' });
    return need ? [`${need.request} ${need.source}`] : [];
  });
  return [...new Set(asked)].sort();
}

/** @param written - the code as it goes into pages, where that is not the code as it is */
export function partNeeds(
  code: string,
  written: string,
  memory: FactsCache,
  filesOf: (address: string) => FileAsks | undefined = () => undefined,
): readonly PolicyNeed[] {
  const standing =
    written === code ? policyRequests(code) : [...policyRequests(written), ...policyRequests(code)];
  const { facts } = memory.read(code);
  return distinct([
    ...standing.flatMap(needOfStanding),
    ...facts.loads.flatMap((load) => needOfLoad(load)),
    ...facts.loads.flatMap((load) =>
      load.kind === 'script' && !load.noScript ? (filesOf(load.address)?.asks ?? []).flatMap(toNeed) : [],
    ),
  ]);
}

/** Where a file asks for something of the site itself, `'self'` is the page's, and so it is for the file. */
function toNeed(asked: string): PolicyNeed[] {
  const [request, source] = asked.split(' ');
  if (source === undefined || request === undefined || !(request in REQUESTED)) return [];
  const isHost = !source.startsWith("'") && !source.endsWith(':');
  const address = isHost ? `//${source}/` : source === "'self'" ? '/' : undefined;
  return [{ request: request as PolicyRequest, source, isTag: false, ...(address ? { address } : {}) }];
}

const REQUESTED: Readonly<Partial<Record<PolicyRequest, true>>> = {
  script: true,
  style: true,
  image: true,
  frame: true,
  font: true,
  connect: true,
  media: true,
};
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

/** What a policy is asked for something that is fetched; undefined for what it has no say in. */
export function requestOfLoad({ kind, by }: Pick<Load, 'kind' | 'by'>): PolicyRequest | undefined {
  return kind === 'data' && by === 'tag' ? 'media' : REQUESTS[kind];
}

function needOfLoad({ kind, by, address, noScript }: Load): PolicyNeed[] {
  const request = requestOfLoad({ kind, by });
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
