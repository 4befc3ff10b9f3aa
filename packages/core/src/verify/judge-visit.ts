import type { Facts } from '../facts/index.js';
import type { LoadEvidence } from '../visit/index.js';
import type { Owner } from './attribution.js';
import type { PartDelivery } from './delivered.js';
import type { Expected } from './expectation.js';
import { judgeSnippets, openLoad, type LoadCase, type SnippetRungs } from './judge-load.js';
import { totalsOf, type LoadTotals } from './load-totals.js';
import { coveredControls, overlapsOf, type Covered, type Overlap } from './overlap.js';
import { disclosuresOf, type DisclosureStage } from './privacy.js';
import { ranOrder, type RanScript } from './ran-order.js';
import { reportsIn, type Report } from './reports.js';
import { ownerOfError } from './rungs/ran.js';
import { doubledOf, type Doubled } from './twice.js';
import { weightsOf, type Weight } from './weight.js';

/** One page load with what it is judged by. */
export interface LoadToJudge {
  readonly load: LoadEvidence;
  readonly expected: Expected;
  /** What the judges of the host's delivery say of each planned part. */
  readonly deliveries: readonly PartDelivery[];
}

/** Whose doing something was, as it is kept: a snippet's key, null for the page, undefined where nobody knows. */
export interface KeptOwner {
  readonly snippet?: string | null;
  readonly via?: readonly string[];
}

/** All that is concluded from one page load. */
export interface JudgedLoad {
  readonly url: string;
  readonly status: number | null;
  readonly snippets: readonly SnippetRungs[];
  /** Keys of the snippets that ask for consent. */
  readonly banners: readonly string[];
  readonly overlaps: readonly Overlap[];
  readonly covered: readonly Covered[];
  readonly doubled: readonly Doubled[];
  readonly stages: readonly DisclosureStage[];
  readonly weights: readonly Weight[];
  /** What ran, in order; left out by visits of before that was written down. */
  readonly ran?: readonly RanScript[];
  /** What anybody was told; left out by visits of before that was written down. */
  readonly reports?: readonly Report[];
  /** Of everything on it; left out by visits of before they were counted. */
  readonly totals?: LoadTotals;
  /** Owners of the things of the evidence, in its order. */
  readonly owners: {
    readonly requests: readonly KeptOwner[];
    readonly exceptions: readonly KeptOwner[];
    readonly elements: readonly KeptOwner[];
    readonly writes: readonly KeptOwner[];
  };
}

/**
 * Judges the page loads of a visit.
 *
 * @param probed - parts by the selectors that were asked about for them
 */
export function judgeVisit(
  loads: readonly LoadToJudge[],
  probed: ReadonlyMap<string, string>,
  read?: (code: string) => Facts,
): readonly JudgedLoad[] {
  return loads.map((one) => {
    const opened = openLoad({ ...one, probed, ...(read ? { read } : {}) });
    const { load } = one;
    return {
      url: load.finalUrl,
      status: load.status,
      snippets: judgeSnippets(one.expected, opened),
      banners: [...new Set(opened.all.map(({ snippet }) => snippet))].filter(opened.isBanner),
      overlaps: overlapsOf(load, opened),
      covered: coveredControls(load, opened),
      doubled: doubledOf(load, opened),
      stages: disclosuresOf(load, opened),
      weights: weightsOf(load, opened),
      totals: totalsOf(load),
      ran: ranOrder(load, opened),
      reports: reportsIn(load, opened),
      owners: ownersOf(load, opened),
    };
  });
}

function ownersOf(load: LoadEvidence, { attribution, ownerOf }: LoadCase): JudgedLoad['owners'] {
  return {
    requests: load.requests.map((request) => kept(attribution.ofRequest(request))),
    exceptions: load.exceptions.map((error) => kept(ownerOfError(error, attribution))),
    elements: load.elements.map((element) => kept(ownerOf(element))),
    writes: load.writes.map((write) => kept(attribution.ofWrite(write))),
  };
}

function kept(owner: Owner): KeptOwner {
  if (owner.kind === 'unknown') return {};
  return {
    snippet: owner.kind === 'page' ? null : owner.snippet,
    ...(owner.via.length === 0 ? {} : { via: owner.via }),
  };
}
