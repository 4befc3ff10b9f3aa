import { difference } from '../release/index.js';
import {
  hoursAt,
  momentWords,
  visitorWords,
  waitWords,
  whyOutOfReach,
  zoneClock,
  type OutOfReach,
  type PageLoad,
} from '../reach/index.js';
import { reachOf, type Snapshot, type SnapshotSnippet } from '../snapshot/index.js';
import { planPage } from '../plan/index.js';
import { lazyTexts } from '../texts/lazy-texts.js';
import { say } from '../texts/say.js';
import { STEP_TITLES, WHO_WORDS, WHY_TEXTS as T } from '../texts/why.js';
import type { SnippetRungs } from './judge-load.js';
import { RUNGS, type Cause, type Responsible, type Rung } from './rungs/types.js';

/** From what is saved here to what the provider has received, in the order in which a thing comes to a visitor. */
export const WHY_STEPS = ['saved', 'on', 'published', 'in-reach', ...RUNGS] as const;
export type WhyStepName = (typeof WHY_STEPS)[number];

export interface WhyStep {
  readonly step: WhyStepName;
  readonly title: string;
  readonly state:
    | 'passed'
    | 'failed'
    /** Things of its kind have no such step. */
    | 'none'
    /** Only a visit can tell. */
    | 'open'
    /** Below a step that failed. */
    | 'not-reached';
  readonly message: string;
  readonly cause?: Cause;
  readonly notes?: readonly string[];
}

/** One answer: how far the thing comes, why not further, who can change that and how. */
export interface WhyAnswer {
  readonly snippet: string;
  readonly name: string;
  /** Null while only a visit can tell. */
  readonly isWell: boolean | null;
  /** The whole answer in one sentence. */
  readonly sentence: string;
  readonly steps: readonly WhyStep[];
  /** Where it stops. */
  readonly stopsAt?: WhyStepName;
  readonly cause?: Cause;
  /** When the answer changes by itself, in milliseconds since 1970. */
  readonly until?: number;
  /** Why some people do not see it though all is well. */
  readonly hints: readonly string[];
}

export interface WhyQuestion {
  readonly snippet: string;
  readonly draft: Snapshot;
  /** What the environment serves; undefined while nothing is published there. */
  readonly served: { readonly release: number; readonly snapshot: Snapshot } | undefined;
  readonly load: PageLoad;
}

/**
 * What follows from settings alone: saved, switched on, published, in its reach.
 *
 * @returns undefined for a snippet that neither the draft nor the release has
 */
export function whyFromSettings(question: WhyQuestion): WhyAnswer | undefined {
  const { draft, served, load } = question;
  const inDraft = draft.snippets.find(({ key }) => key === question.snippet);
  const inRelease = served?.snapshot.snippets.find(({ key }) => key === question.snippet);
  const snippet = inDraft ?? inRelease;
  if (!snippet) return undefined;
  const until = inRelease && nextChange(inRelease, served!.snapshot, load);
  const steps: WhyStep[] = [];
  for (const step of [
    savedStep(inDraft, inRelease),
    onStep(inDraft, inRelease, served?.snapshot ?? draft, load),
    publishedStep(question, inDraft, inRelease),
    reachStep(inRelease ?? snippet, (served ?? { snapshot: draft }).snapshot, load),
  ]) {
    const isBelow = steps.some(({ state }) => state === 'failed');
    steps.push(
      isBelow ? { step: step.step, title: step.title, state: 'not-reached', message: T.notReached } : step,
    );
  }
  const failed = steps.find(({ state }) => state === 'failed');
  const rest = RUNGS.map((step): WhyStep => ({
    step,
    title: STEP_TITLES[step],
    state: failed ? 'not-reached' : 'open',
    message: failed ? T.notReached : T.stepUnknown,
  }));
  return answer(snippet, load, [...steps, ...rest], until);
}

/** The same with what a visit saw. @param rungs - undefined where the page could not be opened */
export function whyWithVisit(
  settings: WhyAnswer,
  { served, draft, load }: WhyQuestion,
  rungs: SnippetRungs | undefined,
  problem: string | undefined,
): WhyAnswer {
  const snapshot = served?.snapshot ?? draft;
  const snippet = snapshot.snippets.find(({ key }) => key === settings.snippet)!;
  const above = settings.steps.filter(({ step }) => !RUNGS.includes(step as Rung));
  if (!rungs || problem !== undefined) {
    const cause: Cause = {
      id: 'no-page',
      message: say(T.visitFailed, { problem: problem ?? '' }),
      advice: T.visitFailedAction,
      who: 'site',
      evidence: [],
    };
    const steps = RUNGS.map((step, index): WhyStep => ({
      step,
      title: STEP_TITLES[step],
      ...(index === 0
        ? { state: 'failed', message: cause.message, cause }
        : { state: 'not-reached', message: T.notReached }),
    }));
    return answer(snippet, load, [...above, ...steps], settings.until);
  }
  const steps = rungs.rungs.map(({ rung, state, message, cause, notes }): WhyStep => ({
    step: rung,
    title: STEP_TITLES[rung],
    state: state === 'reached' ? 'passed' : state === 'waiting' ? 'open' : state,
    message,
    ...(cause ? { cause } : {}),
    ...(notes ? { notes } : {}),
  }));
  const told = answer(snippet, load, [...above, ...steps], settings.until);
  return rungs.expected === 'waits' && told.isWell === null
    ? { ...told, sentence: say(T.waitingStill, { name: snippet.name, because: rungs.because ?? '' }) }
    : told;
}

function answer(
  { key, name, limits }: SnapshotSnippet,
  { page }: PageLoad,
  steps: readonly WhyStep[],
  until: number | undefined,
): WhyAnswer {
  const path = page.pathname;
  const failed = steps.find(({ state }) => state === 'failed');
  const isOpen = steps.some(({ state }) => state === 'open');
  const last = (['shown', 'reported'] as const)
    .map((name) => steps.find(({ step, state }) => step === name && state === 'passed'))
    .find((step) => step !== undefined);
  const visitor = limits?.visitor;
  const wait = visitor ? waitWords(visitor) : '';
  const { everyDays = 0 } = visitor ?? {};
  const hints = failed
    ? []
    : [
        ...(wait === '' ? [] : [say(T.waitsFor, { wait })]),
        ...(everyDays > 0 ? [say(T.rarely, { often: visitorWords({ everyDays }) })] : []),
        ...(isOpen ? [] : [T.wellHint]),
      ];
  return {
    snippet: key,
    name,
    isWell: failed ? false : isOpen ? null : true,
    sentence: failed
      ? say(T.brief, { name, path, message: failed.message })
      : isOpen
        ? T.stepUnknown
        : last
          ? say(T.wellShown, { name, path, what: last.message })
          : say(T.wellRan, { name, path }),
    steps,
    ...(failed ? { stopsAt: failed.step } : {}),
    ...(failed?.cause ? { cause: failed.cause } : {}),
    ...(until === undefined ? {} : { until }),
    hints,
  };
}

function passed(step: WhyStepName, message: string, notes: readonly string[] = []): WhyStep {
  return { step, title: STEP_TITLES[step], state: 'passed', message, ...(notes.length > 0 ? { notes } : {}) };
}

function failed(
  step: WhyStepName,
  id: string,
  message: string,
  advice: string,
  who: Responsible = 'you',
  evidence: readonly string[] = [],
): WhyStep {
  return {
    step,
    title: STEP_TITLES[step],
    state: 'failed',
    message,
    cause: { id, message, advice, who, evidence },
  };
}

function savedStep(inDraft: SnapshotSnippet | undefined, inRelease: SnapshotSnippet | undefined): WhyStep {
  if (!inDraft) return passed('saved', T.onlyReleased);
  if (inDraft.parts.length === 0 && (inRelease?.parts.length ?? 0) === 0)
    return failed('saved', 'no-code', T.noCode, T.noCodeAction);
  return passed('saved', T.saved);
}

/** The draft counts: what is off only in the release has not been published since. */
function onStep(
  inDraft: SnapshotSnippet | undefined,
  inRelease: SnapshotSnippet | undefined,
  snapshot: Snapshot,
  load: PageLoad,
): WhyStep {
  const snippet = inDraft ?? inRelease!;
  if (snippet.state === 'on') return passed('on', T.on);
  const plan = planPage({ ...snapshot, snippets: [snippet] }, load);
  const message = plan.leftOut[0]?.reasons[0]?.message ?? T.notReached;
  return failed('on', snippet.state, message, snippet.state === 'off' ? T.offAction : T.archivedAction);
}

function publishedStep(
  { served, draft, load: { environment } }: WhyQuestion,
  inDraft: SnapshotSnippet | undefined,
  inRelease: SnapshotSnippet | undefined,
): WhyStep {
  if (!served)
    return failed(
      'published',
      'nothing-published',
      say(T.nothingPublished, { environment }),
      T.publishAction,
    );
  const params = { release: served.release, environment };
  if (!inRelease) return failed('published', 'not-in-release', say(T.notInRelease, params), T.publishAction);
  if (inRelease.state !== 'on')
    return failed('published', 'off-in-release', say(T.releasedOff, params), T.publishAction);
  const changes = inDraft
    ? difference(served.snapshot, draft).filter(({ snippet, visible }) => visible && snippet === inDraft.key)
    : [];
  const notes =
    changes.length === 0 ? [] : [say(T.releasedOlder, params), ...changes.map(({ message }) => message)];
  return passed('published', say(T.published, params), notes);
}

const REACH_ACTIONS: Readonly<Record<OutOfReach, string>> = lazyTexts({
  excluded: () => T.pageAction,
  'not-included': () => T.pageAction,
  environment: () => T.reachAction,
  device: () => T.deviceAction,
  hours: () => T.opensAction,
  consent: () => T.consentAction,
  visitor: () => T.reachAction,
  window: () => T.reachAction,
});

function reachStep(snippet: SnapshotSnippet, { site }: Snapshot, load: PageLoad): WhyStep {
  const reasons = whyOutOfReach(reachOf(snippet), site, load);
  const [first, ...others] = reasons;
  if (!first) return passed('in-reach', T.inReach);
  const isOver =
    first.reason === 'hours' &&
    snippet.limits?.hours !== undefined &&
    hoursAt(snippet.limits.hours, zoneClock(site.timeZone), load.at).until === undefined;
  const step = failed(
    'in-reach',
    first.reason,
    first.message,
    isOver ? T.overAction : REACH_ACTIONS[first.reason],
    first.reason === 'consent' ? 'visitor' : 'you',
  );
  return others.length === 0 ? step : { ...step, notes: others.map(({ message }) => message) };
}

/** When opening hours next change whether the snippet runs. */
function nextChange(snippet: SnapshotSnippet, { site }: Snapshot, load: PageLoad): number | undefined {
  const { hours } = snippet.limits ?? {};
  return hours && hoursAt(hours, zoneClock(site.timeZone), load.at).until;
}

/** "From Monday 09:00 on the answer is another." */
export function untilWords({ until }: WhyAnswer, { site }: Snapshot, now: number): string | undefined {
  return until === undefined
    ? undefined
    : say(T.mayOpenLater, { moment: momentWords(until, site.timeZone, now) });
}

/** Who can change something, in words. */
export function whoWords(who: Responsible): string {
  return WHO_WORDS[who];
}
