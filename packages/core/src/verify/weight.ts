import type { LoadEvidence } from '../visit/index.js';
import { snippetOf, type Owner } from './attribution.js';
import type { LoadCase } from './judge-load.js';
import { UNNOTICED_MS } from './load-totals.js';

/** What one snippet, or the page itself, costs in one page load. */
export interface Weight {
  /** Null for the page itself, undefined where nobody knows. */
  readonly snippet: string | null | undefined;
  readonly name: string;
  readonly requests: number;
  /** As they came over the line. */
  readonly bytes: number;
  /** In long tasks, beyond the 50 ms that nobody notices. */
  readonly blockingMs: number;
}

/** What each one costs, the heaviest first. */
export function weightsOf(load: LoadEvidence, opened: LoadCase): readonly Weight[] {
  const byOwner = new Map<string, { owner: Owner; requests: number; bytes: number; blockingMs: number }>();
  const of = (owner: Owner) => {
    const key = owner.kind === 'snippet' ? `snippet ${owner.snippet}` : owner.kind;
    let entry = byOwner.get(key);
    if (!entry) byOwner.set(key, (entry = { owner, requests: 0, bytes: 0, blockingMs: 0 }));
    return entry;
  };
  for (const request of load.requests) {
    const entry = of(opened.attribution.ofRequest(request));
    entry.requests++;
    entry.bytes += request.bytes;
  }
  for (const { durationMs, scripts } of load.longTasks) {
    const blocking = Math.max(0, durationMs - UNNOTICED_MS);
    const total = scripts.reduce((sum, one) => sum + one.durationMs, 0);
    for (const { url, durationMs: part } of scripts) {
      const request = load.requests.find((one) => one.url === url);
      const owner: Owner = request ? opened.attribution.ofRequest(request) : { kind: 'unknown' };
      of(owner).blockingMs += total === 0 ? 0 : (blocking * part) / total;
    }
  }
  return [...byOwner.values()]
    .map(({ owner, blockingMs, ...rest }) => ({
      snippet: snippetOf(owner),
      name: owner.kind === 'snippet' ? opened.nameOf(owner.snippet) : '',
      ...rest,
      blockingMs: Math.round(blockingMs),
    }))
    .sort((a, b) => b.bytes - a.bytes || b.requests - a.requests);
}
