import type { Snapshot } from '../snapshot/index.js';
import { planPage } from './plan-page.js';
import type { LeftOutSnippet, PagePlan } from './types.js';
import { PLAN_TEXTS } from '../texts/plan.js';
import { say } from '../texts/say.js';

/**
 * The plan of what is published, with what the draft would do otherwise: a snippet that would run is told to be saved
 * and not published.
 */
export function withDraft(plan: PagePlan, draft: Snapshot): PagePlan {
  const runsNow = new Set(plan.parts.map(({ snippet }) => snippet));
  const known = new Set(plan.leftOut.map(({ snippet }) => snippet));
  const would = planPage(draft, plan.load);
  const wouldRun = new Set(would.parts.map(({ snippet }) => snippet));
  const leftOut = plan.leftOut.map((entry): LeftOutSnippet => {
    if (!wouldRun.has(entry.snippet)) return entry;
    const message = PLAN_TEXTS.changedDraftSo;
    return { ...entry, reasons: [...entry.reasons, { reason: 'not-published', message }] };
  });
  const isNew = (key: string): boolean => !runsNow.has(key) && !known.has(key);
  const reason = { reason: 'not-published', message: PLAN_TEXTS.savedButNot } as const;
  const added = draft.snippets
    .filter(({ key }) => isNew(key))
    .map(({ key, name }): LeftOutSnippet => {
      const others = would.leftOut.find(({ snippet }) => snippet === key)?.reasons ?? [];
      return { snippet: key, name, ...reason, reasons: [reason, ...others] };
    });
  return { ...plan, leftOut: [...leftOut, ...added] };
}

/** What differs between two plans of one page load, in words. */
export function planDifference(from: PagePlan, to: PagePlan): string[] {
  const before = new Map(from.parts.map((part) => [part.key, part]));
  const after = new Map(to.parts.map((part) => [part.key, part]));
  const names = (keys: Iterable<string>, parts: typeof before): string[] => [
    ...new Set([...keys].map((key) => parts.get(key)!.name)),
  ];
  const added = names(
    [...after.keys()].filter((key) => !before.has(key)),
    after,
  );
  const removed = names(
    [...before.keys()].filter((key) => !after.has(key)),
    before,
  );
  const common = [...after.keys()].filter((key) => before.has(key));
  const changed = names(
    common.filter((key) => before.get(key)!.code !== after.get(key)!.code),
    after,
  );
  const isMoved = common.join() !== [...before.keys()].filter((key) => after.has(key)).join();
  return [
    ...added.map((name) => say(PLAN_TEXTS.nameAdded, { name })),
    ...removed.map((name) => say(PLAN_TEXTS.nameGoes, { name })),
    ...changed.map((name) => say(PLAN_TEXTS.nameHasOther, { name })),
    ...(isMoved ? [PLAN_TEXTS.whatStaysComes] : []),
  ];
}
