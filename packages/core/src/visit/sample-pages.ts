import { ReleasePlanner, type PlannedPage } from '../plan/index.js';
import { pageAddress, type EnvironmentName } from '../reach/index.js';
import type { Snapshot } from '../snapshot/index.js';
import { NEEDED_TEXTS } from '../texts/needed-visits.js';
import { say } from '../texts/say.js';
import { otherMoments } from './needed-visits.js';

/** A page, and what else is known of it. */
export interface KnownPage {
  readonly path: string;
  /** Names what the page is made of: pages of one skeleton are built alike. Left out where nobody knows. */
  readonly skeleton?: string;
}

/** A page of a sample. */
export interface SampledPage {
  readonly path: string;
  /** How many pages have just the same snippets and the same build. */
  readonly standsFor: number;
  /** Keys of the snippets that it is there for: no page before it has them on such a build. */
  readonly covers: readonly string[];
}

/**
 * Few pages on which every snippet is seen on every kind of page: a cover of the pairs snippet × skeleton by pages, the page with
 * the most that is new first (greedy set cover; Chvátal 1979).
 */
export function samplePages(
  snapshot: Snapshot,
  environment: EnvironmentName,
  host: string,
  pages: readonly KnownPage[],
  now: number,
): readonly SampledPage[] {
  const kinds = new Map<
    string,
    { readonly path: string; readonly snippets: readonly string[]; readonly skeleton: string; count: number }
  >();
  const consent = snapshot.site.consent?.categories.map(({ key }) => key) ?? [];
  const planner = new ReleasePlanner(snapshot, environment);
  // What is closed now is on its pages all the same: it is visited when it is open.
  const on = snapshot.snippets.filter(({ state }) => state === 'on');
  const moments = [now, ...otherMoments(on, snapshot, now).map(({ at }) => at)];
  // Pages that the same page rules hold get the same, so that one of them is planned.
  const known = new Map<PlannedPage, readonly string[]>();
  const snippetsOf = (path: string): readonly string[] => {
    const page = pageAddress(path, host);
    const planned = planner.page(page);
    let snippets = known.get(planned);
    if (!snippets) {
      const all = (['desktop', 'phone'] as const).flatMap((device) =>
        moments.flatMap((at) =>
          planner.plan({ page, device, at, consent }).parts.map((part) => part.snippet),
        ),
      );
      known.set(planned, (snippets = [...new Set(all)].sort()));
    }
    return snippets;
  };
  for (const { path, skeleton = '' } of pages) {
    const snippets = snippetsOf(path);
    const key = `${skeleton}\n${snippets.join()}`;
    const kind = kinds.get(key);
    if (kind) kind.count++;
    else kinds.set(key, { path, snippets, skeleton, count: 1 });
  }
  const open = new Set(
    [...kinds.values()].flatMap(({ snippets, skeleton }) => snippets.map((one) => pair(one, skeleton))),
  );
  const left = [...kinds.values()];
  const sample: SampledPage[] = [];
  while (open.size > 0) {
    let best: { readonly index: number; readonly fresh: readonly string[] } = { index: -1, fresh: [] };
    left.forEach(({ snippets, skeleton }, index) => {
      const fresh = snippets.filter((one) => open.has(pair(one, skeleton)));
      if (fresh.length > best.fresh.length) best = { index, fresh };
    });
    const [taken] = left.splice(best.index, 1);
    for (const one of best.fresh) open.delete(pair(one, taken!.skeleton));
    sample.push({ path: taken!.path, standsFor: taken!.count, covers: best.fresh });
  }
  // Where nothing runs anywhere, one page tells that.
  const [first] = pages;
  return sample.length === 0 && first ? [{ path: first.path, standsFor: pages.length, covers: [] }] : sample;
}

function pair(snippet: string, skeleton: string): string {
  return `${snippet}\n${skeleton}`;
}

/** Why a page is in a sample: "The page stands for 12 with the same snippets and the same build. It is there for “A”." */
export function sampledWords({ standsFor, covers }: SampledPage, { snippets }: Snapshot): string {
  const names = covers.map((key) => `“${snippets.find((one) => one.key === key)?.name ?? key}”`);
  return [
    standsFor > 1 ? say(NEEDED_TEXTS.standsFor, { count: standsFor }) : '',
    names.length > 0 ? say(NEEDED_TEXTS.covers, { names }) : '',
  ]
    .filter(Boolean)
    .join(' ');
}
