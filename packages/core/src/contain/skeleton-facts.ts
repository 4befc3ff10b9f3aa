import { memoizeByObject } from '../memoize/by-object.js';
import { insert, placementKey, type Placement } from '../insert/index.js';
import type { PageSkeleton } from './skeleton.js';

const MARK = '<!--here-->';
const behind = memoizeByObject<PageSkeleton, Map<string, ReadonlySet<string> | undefined>>(() => new Map());

/** Which of a page's own ids stand behind a placement; undefined where it has no such place. */
export function idsBehind(skeleton: PageSkeleton, placement: Placement): ReadonlySet<string> | undefined {
  const kept = behind(skeleton);
  const key = placementKey(placement);
  if (kept.has(key)) return kept.get(key);
  const { page, outcomes } = insert(skeleton.html, [{ key: 'part', placement, code: MARK }]);
  const html = new TextDecoder().decode(page);
  const at = html.indexOf(MARK);
  const found = outcomes[0]!.inserted && at >= 0 ? idsIn(html.slice(at)) : undefined;
  kept.set(key, found);
  return found;
}

/** All ids of a page's own elements. */
export const skeletonIds = memoizeByObject(({ html }: PageSkeleton): ReadonlySet<string> => idsIn(html));

/** A skeleton writes its attributes in one way only. */
function idsIn(html: string): Set<string> {
  return new Set([...html.matchAll(/ id="([^"]*)"/g)].map(([, id]) => unescaped(id!)));
}

function unescaped(value: string): string {
  return value.replaceAll('&quot;', '"').replaceAll('&amp;', '&');
}

/** The opening tags of a page's head that it has once, as a skeleton writes them. */
export const singleTags = memoizeByObject(({ html }: PageSkeleton): readonly string[] =>
  [...html.matchAll(/<(?:title|base|meta [^>]*|link [^>]*)>/g)].map(([tag]) => tag),
);
