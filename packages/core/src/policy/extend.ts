import { ContentPolicy, allowsAllInline, directiveOf, type PolicyRequest } from './content-policy.js';
import type { PolicyNeed } from './needs.js';

/** A policy that lets in what parts need. */
export interface ExtendedPolicy {
  /** As it is sent; the same text where nothing had to be added. */
  readonly value: string;
  /** What was added, in the order of its directives. */
  readonly added: readonly { readonly directive: string; readonly source: string }[];
  /** What no source can let in: only a nonce could. */
  readonly unmet: readonly PolicyNeed[];
}

/** What can carry a nonce (CSP Level 3, 6.7.3.3 and 6.7.2.3). */
const CARRIES_NONCE = new Set<PolicyRequest>(['script', 'inline-script', 'style', 'inline-style']);

/**
 * Adds to a policy what it does not let in yet, and nothing else: directives keep their order, sources of others theirs.
 * Where `default-src` decided, the directive that is meant is written with its sources and the new one (CSP Level 3, 6.8.3).
 *
 * @param serialized - one policy, as it was sent
 * @param page - address of the page
 * @param hasNonce - whether the parts' tags carry the policy's nonce, if it has one
 */
export function extendPolicy(
  serialized: string,
  needs: readonly PolicyNeed[],
  page: string,
  hasNonce = false,
): ExtendedPolicy {
  const directives = new Map(
    [...new ContentPolicy(serialized).directives].map(([name, sources]) => [name, [...sources]] as const),
  );
  const added: { directive: string; source: string }[] = [];
  const unmet: PolicyNeed[] = [];
  let policy = new ContentPolicy(serialized);
  for (const need of needs) {
    const governing = policy.governing(need.request);
    if (governing === undefined) continue;
    const sources = directives.get(governing)!;
    if (hasNonce && carriesNonce(need) && sources.some(isNonce)) continue;
    if (isStrictScript(need, sources)) {
      // What a trusted script loads is trusted; for a tag it takes a nonce.
      if (need.isTag) unmet.push(need);
      continue;
    }
    if (isLetIn(policy, need, sources, page)) continue;
    const directive = governing === 'default-src' ? directiveOf(need.request) : governing;
    const wanted = need.request === 'handler' ? ["'unsafe-hashes'", need.source] : [need.source];
    const before = sources.filter((source) => source.toLowerCase() !== "'none'");
    const fresh = wanted.filter((source) => !before.includes(source));
    directives.set(directive, [...before, ...fresh]);
    added.push(...fresh.map((source) => ({ directive, source })));
    policy = new ContentPolicy(serialize(directives));
  }
  return { value: added.length === 0 ? serialized : serialize(directives), added, unmet };
}

/** A source that somebody has allowed in a directive. */
export interface AllowedSource {
  readonly directive: string;
  readonly source: string;
}

/**
 * Allows sources wherever a policy has a say in them, and nowhere else: a directive that is not there stops nothing, and is not made
 * to. Those for attributes (`script-src-attr`) are written beside what decided on them before.
 */
export function withSources(serialized: string, allowed: readonly AllowedSource[]): string {
  if (allowed.length === 0) return serialized;
  const directives = new Map(new ContentPolicy(serialized).directives);
  const add = (name: string, before: readonly string[], source: string): void => {
    if (before.includes(source)) return;
    directives.set(name, [...before.filter((one) => one.toLowerCase() !== "'none'"), source]);
  };
  for (const { directive, source } of allowed) {
    const isAttribute = directive.endsWith('-attr');
    const base = directive.replace(/-(?:elem|attr)$/, '');
    const deciding = [directive, base, 'default-src'].find((name) => directives.has(name));
    if (deciding === undefined) continue;
    if (isAttribute) add(directive, directives.get(directive) ?? [], source);
    else add(deciding === 'default-src' ? base : deciding, directives.get(deciding)!, source);
    const elements = directives.get(`${base}-elem`);
    if (!isAttribute && elements) add(`${base}-elem`, elements, source);
  }
  const changed = serialize(directives);
  return changed === serialize(new ContentPolicy(serialized).directives) ? serialized : changed;
}

function isLetIn(policy: ContentPolicy, need: PolicyNeed, sources: readonly string[], page: string): boolean {
  if (need.address !== undefined)
    return (
      policy.verdict(need.request, need.address, page).kind === 'allowed' || sources.includes(need.source)
    );
  if (allowsAllInline(sources)) return true;
  const isHashed = sources.some((source) => source.toLowerCase() === "'unsafe-hashes'");
  return sources.includes(need.source) && (need.request !== 'handler' || isHashed);
}

function isStrictScript({ request }: PolicyNeed, sources: readonly string[]): boolean {
  return request === 'script' && sources.some((source) => source.toLowerCase() === "'strict-dynamic'");
}

function carriesNonce({ request, isTag }: PolicyNeed): boolean {
  return isTag && CARRIES_NONCE.has(request);
}

function isNonce(source: string): boolean {
  return /^'nonce-/i.test(source);
}

/** The nonce that a policy wants of scripts; undefined where it wants none. */
export function nonceIn(serialized: string): string | undefined {
  const policy = new ContentPolicy(serialized);
  const directive = policy.governing('script');
  const sources = directive === undefined ? [] : policy.directives.get(directive)!;
  const value = sources.flatMap((source) => /^'nonce-([A-Za-z0-9+/_-]+={0,2})'$/i.exec(source)?.[1] ?? [])[0];
  return value;
}

/** A policy as it is sent (CSP Level 3, 2.2.1). */
export function serialize(directives: Iterable<readonly [name: string, sources: readonly string[]]>): string {
  return [...directives].map(([name, sources]) => [name, ...sources].join(' ')).join('; ');
}

/** The policies of one header: several may stand in it, with commas between them (CSP Level 3, 2.2.2). */
export function policiesIn(header: string): string[] {
  return header
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '');
}
