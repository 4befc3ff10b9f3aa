import { isAnchor } from '../insert/index.js';
import type { Use } from '../facts/index.js';
import { VERDICTS, isBroughtByLoader, type Verdict } from '../order/index.js';
import type { CheckedSet } from './checked-set.js';
import { Makers, openUses } from './order/definitions.js';
import type { PageDefiner } from './page-code.js';
import type { ReadPart } from './read-part.js';

/** That a part needs a name which its pages make themselves. */
export interface PageNeed {
  readonly part: ReadPart;
  readonly use: Use;
  /** What makes it, on that page. */
  readonly definer: PageDefiner;
  /** The first page where it comes worst. */
  readonly page: string;
  readonly verdict: Verdict;
}

const BEST_FIRST: readonly Verdict[] = ['fine', 'race', 'wrong'];

/** What the running parts need of their pages, each name once; what a snippet makes is asked of that. */
export function pageNeeds(set: CheckedSet): PageNeed[] {
  const makers = new Makers(set);
  const told = new Map<string, PageNeed>();
  for (const { part, use } of openUses(set)) {
    if (makers.of(use.name).length > 0 || isBroughtByLoader(part, use)) continue;
    const need = worstOf(set, part, use);
    const key = `${part.key} ${use.name}`;
    const known = told.get(key);
    if (need && (!known || badness(need) > badness(known))) told.set(key, need);
  }
  return [...told.values()];
}

function badness({ verdict }: Pick<PageNeed, 'verdict'>): number {
  return BEST_FIRST.indexOf(verdict);
}

/** On the kind of page where it comes worst; on each the one that comes best counts. */
function worstOf(set: CheckedSet, part: ReadPart, use: Use): PageNeed | undefined {
  const all = set.pageCode.definersOf(use.name);
  if (all.length === 0) return undefined;
  let worst: PageNeed | undefined;
  for (const { group, page } of set.pageCode.pagesOf(part.snippet)) {
    const here = all
      .filter(({ thing }) => thing.compositions.has(group.composition))
      .map((definer) => ({ part, use, definer, page, verdict: verdictOf(set, definer, part, use) }));
    const best = here.sort((a, b) => badness(a) - badness(b))[0];
    if (best && (!worst || badness(best) > badness(worst))) worst = best;
  }
  return worst;
}

function verdictOf(set: CheckedSet, definer: PageDefiner, part: ReadPart, use: Use): Verdict {
  // What runs later on an event finds it there nearly always; which comes first at an anchor is the page's affair.
  if (use.when === 'later' || isAnchor(part.part.placement)) return 'fine';
  return VERDICTS[set.pageCode.comesBefore(definer, part, use.when)];
}
