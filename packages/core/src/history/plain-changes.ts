import type { TrailChange } from './chain.js';
import { differingValues, type Values } from './draft-change.js';

/**
 * What was done to things that are no part of a draft. Whole where one is new or gone; otherwise only the values that differ.
 *
 * @param before - by key
 * @param after - by key
 */
export function plainChanges(
  kind: string,
  before: Readonly<Record<string, object>>,
  after: Readonly<Record<string, object>>,
): TrailChange[] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((key): TrailChange[] => {
    const [was, is] = [before[key] as Values | undefined, after[key] as Values | undefined];
    if (!was || !is) return [{ kind, key, before: was ?? null, after: is ?? null }];
    const differing = differingValues(was, is);
    return differing ? [{ kind, key, ...differing }] : [];
  });
}
