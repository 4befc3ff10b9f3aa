import type { FactsCache } from '../facts/index.js';
import { hostOf } from '../facts/index.js';
import {
  directiveOf,
  extendPolicy,
  ownPolicyText,
  policyNeedsOf,
  policyRequests,
  withSources,
  type DeclaredPolicy,
  type OwnPolicy,
  type PolicyNeed,
  type Suspect,
} from '../policy/index.js';
import { pageMatcher, withoutGroups, type EnvironmentName } from '../reach/index.js';
import type { Snapshot, SnapshotSnippet } from '../snapshot/index.js';
import type { ComposedPages } from './composition.js';
import type { SeenSighting } from './gather.js';
import { FileBook, type KnownFile } from './known-file.js';
import { proposeOwnPolicy, type ProposedPolicy } from './own-sources.js';
import type { Sighting } from './sighting.js';
import type { PageType } from './types.js';

/** What is known of a site's pages and their policies. */
export interface PolicyGrounds {
  readonly snapshot: Snapshot;
  readonly environment: EnvironmentName;
  readonly groups: readonly ComposedPages[];
  readonly sightings: readonly (Sighting & { readonly seen: SeenSighting })[];
  /** Policies that pages come with, all of some pages together. */
  readonly policies: readonly {
    readonly policies: readonly DeclaredPolicy[];
    readonly paths: readonly string[];
  }[];
  /** Scheme and host of the pages. */
  readonly address: string;
  /** What the files that pages load do. */
  readonly files: { readonly base: string; readonly files: readonly KnownFile[] };
  /** The policy that somebody has decided on for pages without one. */
  readonly own: OwnPolicy | undefined;
  /** Whatever sends the pages can write a new nonce into each. */
  readonly canMark: boolean;
  /** Where browsers load the one line from, where the pages do. */
  readonly lineAddress: string | undefined;
}

interface Named {
  readonly key: string;
  readonly name: string;
}

/** What a page's policy has to hold, and for whom. */
export interface NeededSource {
  readonly directive: string;
  readonly source: string;
  readonly snippets: readonly Named[];
}

/** A policy that pages come with. */
export interface PresentPolicy {
  readonly value: string;
  readonly from: DeclaredPolicy['from'];
  readonly isReportOnly: boolean;
  readonly pages: number;
  readonly example: string;
  /** With what the snippets on these pages need. */
  readonly extended: string;
  readonly added: readonly { readonly directive: string; readonly source: string }[];
  /** Snippets that it stops as it is. */
  readonly stopped: readonly Named[];
  /** Snippets that it lets in with a nonce only. */
  readonly needNonce: readonly Named[];
}

/** Pages that get the same policy. */
export interface PolicyKind {
  readonly type: PageType;
  readonly pages: number;
  readonly example: string;
  readonly snippets: readonly Named[];
  /** It is one of the site's own, extended. */
  readonly isPresent: boolean;
  readonly policy: string;
}

export interface PolicyOverview {
  readonly needs: readonly NeededSource[];
  readonly present: readonly PresentPolicy[];
  /** For pages without a policy, as the survey would have it now. */
  readonly proposed: ProposedPolicy;
  /** Those of most pages first. */
  readonly kinds: readonly PolicyKind[];
  readonly suspects: readonly Suspect[];
}

/** Of pages that nobody has looked at nothing is known; what is of the site itself may run. */
const NOTHING_SEEN: ProposedPolicy = {
  isStrict: false,
  directives: { 'script-src': ["'self'"] },
  allowed: [],
  reasons: [],
};

/** Stands where each answer has a nonce of its own. */
const SHOWN_NONCE = '…';

/** Which policies a site's pages need, computed from what it serves and what a survey saw in its pages. */
export function policyOverview(grounds: PolicyGrounds, memory: FactsCache): PolicyOverview {
  const { snapshot, environment, groups, sightings, policies, address, canMark, lineAddress } = grounds;
  const book = new FileBook(grounds.files.base, grounds.files.files);
  const byPart = policyNeedsOf(snapshot, environment, memory, (asked) => book.find(asked));
  const allowed = grounds.own?.allowed ?? [];
  const running = snapshot.snippets.filter(
    ({ state, limits }) =>
      state === 'on' && (limits?.environment === undefined || limits.environment === environment),
  );
  const matchers = running.map((snippet) => ({
    snippet,
    matcher: pageMatcher(withoutGroups(snippet.pages, snapshot.site.pageGroups ?? [])),
    needs: needsOf(snippet, byPart),
  }));
  const line: readonly PolicyNeed[] =
    lineAddress === undefined
      ? []
      : [{ request: 'script', source: new URL(lineAddress).host, address: lineAddress, isTag: true }];
  const onPage = (path: string): typeof matchers =>
    matchers.filter(({ matcher }) => matcher.match(path).matches);
  const proposed = groups.length === 0 ? NOTHING_SEEN : proposeOwnPolicy(sightings, memory, canMark);
  const own = ownPolicyText(grounds.own ?? proposed, SHOWN_NONCE);
  const presentAt = new Map(policies.flatMap((known) => known.paths.map((path) => [path, known] as const)));

  const present = (
    { value: sent, from, isReportOnly }: DeclaredPolicy,
    paths: readonly string[],
  ): PresentPolicy => {
    const value = shown(sent);
    const on = matchers.filter(({ matcher }) => paths.some((path) => matcher.match(path).matches));
    const needs = [...line, ...on.flatMap((one) => one.needs)];
    const { value: extended, added } = extendPolicy(value, needs, address, canMark);
    const outcomes = on.map((one) => ({ ...one, outcome: extendPolicy(value, one.needs, address) }));
    return {
      value,
      from,
      isReportOnly,
      pages: paths.length,
      example: paths[0] ?? '/',
      extended,
      added,
      stopped: outcomes
        .filter(({ outcome }) => outcome.added.length > 0)
        .map(({ snippet }) => named(snippet)),
      needNonce: outcomes
        .filter(({ outcome }) => outcome.unmet.length > 0)
        .map(({ snippet }) => named(snippet)),
    };
  };

  const kinds = new Map<string, PolicyKind>();
  for (const { type, pages, examples } of groups) {
    const [example] = examples;
    if (example === undefined) continue;
    const on = onPage(example);
    const needs = [...line, ...on.flatMap((one) => one.needs)];
    const there = (presentAt.get(example)?.policies ?? []).filter(({ isReportOnly }) => !isReportOnly);
    const texts = there.length > 0 ? there.map(({ value }) => shown(value)) : [own];
    const policy = texts
      .map((text) => withSources(extendPolicy(text, needs, address, canMark).value, allowed))
      .join(', ');
    const known = kinds.get(`${type} ${policy}`);
    kinds.set(`${type} ${policy}`, {
      ...(known ?? {
        type,
        example,
        snippets: on.map(({ snippet }) => named(snippet)),
        isPresent: there.length > 0,
        policy,
      }),
      pages: pages + (known?.pages ?? 0),
    });
  }
  return {
    needs: neededSources(matchers, line),
    present: policies.flatMap((known) => known.policies.map((one) => present(one, known.paths))),
    proposed,
    kinds: [...kinds.values()].sort((a, b) => b.pages - a.pages),
    suspects: matchers.map(({ snippet, needs }) => ({
      snippet: snippet.key,
      name: snippet.name,
      hosts: [...new Set(needs.flatMap(({ address: asked }) => hostOf(asked ?? '') ?? []))],
      inline: snippet.parts.flatMap(({ code }) =>
        policyRequests(code).flatMap(({ request, what }) => (request === 'inline-script' ? [what] : [])),
      ),
    })),
  };
}

/** A policy without the nonce that one visit had. */
function shown(policy: string): string {
  return policy.replace(/'nonce-[^']*'/gi, `'nonce-${SHOWN_NONCE}'`);
}

function named({ key, name }: SnapshotSnippet): Named {
  return { key, name };
}

/** Keys of parts begin with that of their snippet. */
function needsOf(
  { key }: SnapshotSnippet,
  byPart: ReadonlyMap<string, readonly PolicyNeed[]>,
): readonly PolicyNeed[] {
  return [...byPart].flatMap(([part, needs]) => (part.startsWith(`${key}/`) ? needs : []));
}

function neededSources(
  snippets: readonly { readonly snippet: SnapshotSnippet; readonly needs: readonly PolicyNeed[] }[],
  line: readonly PolicyNeed[],
): readonly NeededSource[] {
  const found = new Map<string, { directive: string; source: string; snippets: Map<string, Named> }>();
  const note = ({ request, source }: PolicyNeed, of: Named | undefined): void => {
    const directive = directiveOf(request);
    const one = found.get(`${directive} ${source}`) ?? {
      directive,
      source,
      snippets: new Map<string, Named>(),
    };
    if (of) one.snippets.set(of.key, of);
    found.set(`${directive} ${source}`, one);
  };
  for (const need of line) note(need, undefined);
  for (const { snippet, needs } of snippets) for (const need of needs) note(need, named(snippet));
  return [...found.values()]
    .map(({ snippets: of, ...one }) => ({ ...one, snippets: [...of.values()] }))
    .sort((a, b) => (a.directive + a.source < b.directive + b.source ? -1 : 1));
}
