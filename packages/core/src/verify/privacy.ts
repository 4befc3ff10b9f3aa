import { domainOf } from '../facts/index.js';
import type { LoadEvidence } from '../visit/index.js';
import { snippetOf, type Owner } from './attribution.js';
import type { LoadCase } from './judge-load.js';

/** What one snippet, the page itself or nobody known did in one page load, as somebody responsible for data protection asks. */
export interface Disclosure {
  /** Null for the page itself, undefined where nobody knows. */
  readonly snippet: string | null | undefined;
  readonly name: string;
  readonly stored: readonly { readonly where: string; readonly key: string }[];
  /** Hosts of others that were asked for something, with how often. */
  readonly hosts: readonly { readonly host: string; readonly requests: number }[];
}

/** The visitor had said nothing, had refused, or had accepted. */
export type ConsentStage = 'before' | 'refused' | 'accepted';

/** What was done while the visitor's word was the same. */
export interface DisclosureStage {
  readonly stage: ConsentStage;
  readonly disclosures: readonly Disclosure[];
}

const STAGES = { accept: 'accepted', refuse: 'refused' } as const;

/** What each one stored and whom it asked, before the visitor's answer and after it. */
export function disclosuresOf(load: LoadEvidence, opened: LoadCase): readonly DisclosureStage[] {
  const { answer } = load;
  if (answer?.atMs === undefined)
    return [{ stage: answer ? STAGES[answer.choice] : 'before', disclosures: disclosed(load, opened) }];
  const at = answer.atMs;
  const until = <T extends { readonly atMs?: number; readonly startMs?: number }>(
    all: readonly T[],
    isBefore: boolean,
  ): T[] => all.filter((one) => (one.atMs ?? one.startMs ?? 0) < at === isBefore);
  const part = (isBefore: boolean): LoadEvidence => ({
    ...load,
    writes: until(load.writes, isBefore),
    requests: until(load.requests, isBefore),
  });
  return [
    { stage: 'before', disclosures: disclosed(part(true), opened) },
    { stage: STAGES[answer.choice], disclosures: disclosed(part(false), opened) },
  ];
}

function disclosed(load: LoadEvidence, opened: LoadCase): readonly Disclosure[] {
  const site = domainOf(load.finalUrl);
  const byOwner = new Map<
    string,
    { owner: Owner; stored: Map<string, { where: string; key: string }>; hosts: Map<string, number> }
  >();
  const of = (owner: Owner) => {
    const key = owner.kind === 'snippet' ? `snippet ${owner.snippet}` : owner.kind;
    let entry = byOwner.get(key);
    if (!entry) byOwner.set(key, (entry = { owner, stored: new Map(), hosts: new Map() }));
    return entry;
  };
  for (const write of load.writes) {
    of(opened.attribution.ofWrite(write)).stored.set(`${write.where} ${write.key}`, {
      where: write.where,
      key: write.key,
    });
  }
  for (const request of load.requests) {
    if (!URL.canParse(request.url)) continue;
    const { hostname } = new URL(request.url);
    if (domainOf(request.url) === site || request.failure === 'policy' || request.failure === 'forbidden')
      continue;
    const { hosts } = of(opened.attribution.ofRequest(request));
    hosts.set(hostname, (hosts.get(hostname) ?? 0) + 1);
  }
  return [...byOwner.values()]
    .filter(({ stored, hosts }) => stored.size + hosts.size > 0)
    .map(({ owner, stored, hosts }) => ({
      snippet: snippetOf(owner),
      name: owner.kind === 'snippet' ? opened.nameOf(owner.snippet) : '',
      stored: [...stored.values()],
      hosts: [...hosts].map(([host, requests]) => ({ host, requests })),
    }));
}
