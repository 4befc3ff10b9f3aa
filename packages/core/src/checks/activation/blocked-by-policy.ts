import { hostOf, type Load } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { policyRequests, requestOfLoad, type AskedOfPolicy, type PolicyVerdict } from '../../policy/index.js';
import type { CheckedSet } from '../checked-set.js';
import type { KnownPolicies } from '../knowledge.js';
import { evidence, subject } from '../evidence.js';
import type { ReadPart } from '../read-part.js';
import { SURVEY_TEXTS } from '../../texts/survey.js';
import { defineCheck } from '../check.js';
import { barredByPolicy, isUnder, policyOf } from './policy-bars.js';

const CHAT = '<script src="https://parlanook.example/chat.js"></script>';
const page = (policy: string): string =>
  `<!DOCTYPE html><html><head><meta http-equiv="Content-Security-Policy" content="${policy}"><title>Fares</title></head><body><p>Fares</p></body></html>`;

export const blockedByPolicy = defineCheck({
  id: 'blocked-by-policy',
  area: 'activation',
  severity: 'warning',
  title: 'Blocked by the page’s own content policy',
  why: 'The page tells browsers which code may run on it, and this is not on the list. The code arrives and does nothing, and only the browser’s console says why.',
  asks: ['survey'],
  messages: {
    host: {
      title: '{part} is blocked on {page} by the page’s content policy',
      advice:
        'Its {directive} does not list {host}{pages, plural, =1 {} other { (# pages in all)}}. Add {host} to {directive} where the site sets its policy, or exclude these pages.',
    },
    inline: {
      title: '{part} is blocked on {page} by the page’s content policy',
      advice:
        'Its {directive} forbids code written into the page itself{pages, plural, =1 {} other { (# pages in all)}}. Allow this code by its hash where the site sets its policy, or exclude these pages.',
    },
    nonce: {
      title: '{part} needs a nonce on {page}',
      advice:
        'The {directive} of this page allows only scripts with a one-time mark (nonce) that the site’s own server sets{pages, plural, =1 {} other { (# pages in all)}}. Allow this code by its hash, or exclude these pages.',
    },
    'trusted-types': {
      title: '{part} is blocked on {page} by the page’s Trusted Types',
      advice:
        'The page’s policy (require-trusted-types-for) stops scripts from writing markup or loading code from plain text{pages, plural, =1 {} other { (# pages in all)}}. Ask the provider for a version that supports Trusted Types, or exclude these pages.',
    },
    eval: {
      title: '{part} turns text into code (eval), which {page} forbids',
      advice:
        'Its {directive} does not list “unsafe-eval”{pages, plural, =1 {} other { (# pages in all)}}. Ask the provider for a version without eval, or exclude these pages.',
    },
    sandbox: {
      title: 'No script runs on {page}, so {part} does nothing there',
      advice:
        'The page’s policy puts it in a sandbox without allow-scripts{pages, plural, =1 {} other { (# pages in all)}}. Exclude these pages, or change the policy where the site sets it.',
    },
    several: {
      title: '{parts} snippets are blocked on {page} by the page’s content policy',
      advice:
        'Its {directive} does not list {hosts}{pages, plural, =1 {} other { (# pages in all)}}. Add what you need to {directive} where the site sets its policy, or exclude these pages.',
    },
    'several-nonce': {
      title: '{parts} snippets need a nonce on {page}',
      advice:
        'The {directive} of this page allows only scripts with a one-time mark (nonce) that the site’s own server sets{pages, plural, =1 {} other { (# pages in all)}}. Allow their code by hashes, or exclude these pages.',
    },
  },
  roles: { blocked: 'what is blocked' },
  isFixable: false,
  wrong: [{ name: 'Chat', parts: [{ placement: 'body-end', code: CHAT }] }],
  right: [{ name: 'Chat', parts: [{ placement: 'body-end', code: CHAT.replace('parlanook.', 'boats.') }] }],
  pages: { '/fares': page("script-src 'self' https://boats.example") },
  *run(set) {
    for (const known of set.policies) yield* barredByPolicy(set, known);
  },
  *runOnWhole(set) {
    for (const known of set.policies) {
      const found = set.running.flatMap((part) => firstBlocked(set, known, part) ?? []);
      const [first] = found;
      if (!first) continue;
      const { verdict, path: page, pages } = first;
      const { directive } = verdict;
      const about = {
        about: `${page} ${directive}`,
        subjects: found.map(({ part }) => subject(part)),
        evidence: found.map(({ part, asked }) => evidence(part, asked.range, 'blocked')),
      };
      const snippets = new Set(found.map(({ part }) => part.snippet)).size;
      const isNonce = verdict.kind === 'needs-nonce';
      if (snippets > 1) {
        const params = { parts: snippets, page, directive, pages };
        if (isNonce) yield { ...about, message: 'several-nonce', params };
        else yield { ...about, message: 'several', params: { ...params, hosts: sourcesOf(found) } };
        continue;
      }
      const params = { part: partName(first.part), page, directive, pages };
      const host = hostOf(first.asked.what);
      if (isNonce) yield { ...about, message: 'nonce', params };
      else if (isInline(first)) yield { ...about, message: 'inline', params };
      else yield { ...about, message: 'host', params: { ...params, host: host ?? first.asked.what } };
    }
  },
});

function isInline({ asked: { request } }: Blocked): boolean {
  return request === 'inline-script' || request === 'inline-style' || request === 'handler';
}

/** What would have to be let in: hosts, and the page's own code by hash. */
function sourcesOf(found: readonly Blocked[]): string[] {
  const hosts = found.flatMap((one) => (isInline(one) ? [] : (hostOf(one.asked.what) ?? [])));
  const inline = found.some(isInline) ? [SURVEY_TEXTS.inlineCode] : [];
  return [...new Set([...hosts.sort(), ...inline])];
}

interface Blocked {
  readonly part: ReadPart;
  readonly asked: AskedOfPolicy;
  readonly verdict: Exclude<PolicyVerdict, { readonly kind: 'allowed' }>;
  readonly path: string;
  /** Pages with the policy, as far as they are known by address, on which the part runs. */
  readonly pages: number;
}

function firstBlocked(set: CheckedSet, known: KnownPolicies, part: ReadPart): Blocked | undefined {
  const paths = known.paths.filter((path) => set.runsOn(part.snippet, path));
  const [path] = paths;
  if (path === undefined) return undefined;
  for (const asked of policyRequests(part.code)) {
    const verdict = strictest(known, asked, part, path);
    if (verdict) return { part, asked, verdict, path, pages: paths.length };
  }
  for (const { load, asked } of loadedByScripts(part)) {
    const verdict = strictest(known, asked, part, path, load.kind === 'script');
    if (verdict) return { part, asked, verdict, path, pages: paths.length };
  }
  return undefined;
}

/** What a part's scripts fetch, whose whole address is known. */
function loadedByScripts({ facts }: ReadPart): { load: Load; asked: AskedOfPolicy }[] {
  return facts.loads.flatMap((load) => {
    const request = requestOfLoad(load);
    const isKnown =
      load.by !== 'tag' && !load.noScript && !load.address.includes('…') && hostOf(load.address);
    return request && isKnown ? [{ load, asked: { request, what: load.address, range: load.range } }] : [];
  });
}

/** What the first of the page's policies that does not let it in says; all of them must (CSP Level 3, 2.2). */
function strictest(
  { policies, address }: KnownPolicies,
  asked: AskedOfPolicy,
  part: ReadPart,
  path: string,
  isByScript = false,
): Blocked['verdict'] | undefined {
  for (const { value, from, isReportOnly } of policies) {
    if (isReportOnly || !isUnder(from, part)) continue;
    const policy = policyOf(value);
    const governing = isByScript ? policy.governing('script') : undefined;
    // What a script that is let in loads is let in with it (CSP Level 3, 8.2).
    if (governing !== undefined && policy.directives.get(governing)!.includes("'strict-dynamic'")) continue;
    const verdict = policy.verdict(asked.request, asked.what, address + path);
    if (verdict.kind !== 'allowed') return verdict;
  }
  return undefined;
}
