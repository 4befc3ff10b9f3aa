import {
  blame,
  brokenTrouble,
  damageOf,
  earlyTroubles,
  hasSymptom,
  mayVary,
  missedTroubles,
  newestWell,
  ownTrouble,
  planPage,
  twiceTroubles,
  wellWords,
  pageAddress,
  type BlamedSnippet,
  type FormerForms,
  type JudgedLoad,
  type LoadEvidence,
  type Snapshot,
  type Symptom,
  type Trouble,
} from '@pragmatica/core';
import type { Store } from '../storage/store.js';
import type { TroubleAnswer, TroubleQuestion, VisitRound } from '../storage/visit-rounds.js';
import { addVisit, forgetVisits, saveVisit } from '../storage/visits.js';
import { say } from '../texts/say.js';
import { VISITS_TEXTS } from '../texts/visits.js';
import { visitOnce, type VisitGround } from './one-visit.js';
import type { VisitTools } from './visiting.js';

/** What it takes to look for trouble. */
export interface TroubleWork {
  readonly root: Store;
  readonly round: VisitRound;
  readonly ground: VisitGround;
  readonly tools: VisitTools;
  readonly question: TroubleQuestion;
  readonly historyOf: (snippet: string) => Promise<SnippetHistory>;
  readonly signal: AbortSignal;
}

/** What releases tell of a snippet. */
export interface SnippetHistory {
  /** Since when it has been as it is, in words; left out where nobody knows. */
  readonly since?: string;
  /** Releases in which it became another, the oldest first, and what is served now with the snippet as it was then. */
  readonly formers: readonly FormerSnippet[];
}

interface FormerSnippet {
  readonly release: number;
  readonly snapshot: Snapshot;
}

interface Looked {
  readonly load: LoadEvidence | undefined;
  readonly judged: JudgedLoad | undefined;
}

/**
 * Looks at a page with and without the snippets, finds what is wrong with it, and by further visits which snippet does it.
 *
 * @throws what the signal is aborted with
 */
export async function findTrouble(work: TroubleWork): Promise<TroubleAnswer> {
  const { question, root, round } = work;
  const { path, about } = question;
  await forgetVisits(root.fork(), round);
  const { full, bare } = await lookBothWays(work, VISITS_TEXTS.troubleAllWhy, VISITS_TEXTS.troubleBareWhy);
  if (!full.load || !full.judged) return unreachable();
  const troubles: Trouble[] = [];
  const own = bare.load && ownTrouble(bare.load);
  if (own) troubles.push(own);
  else if (about.includes('broken') && bare.load)
    troubles.push(...(await breakages(work, full.load, full.judged, bare.load)));
  if (about.includes('twice')) troubles.push(...twiceTroubles(full.judged));
  if (about.includes('early')) troubles.push(...earlyTroubles(full.judged));
  // What does not come because the page is broken is no trouble of its own.
  if (about.includes('missed') && !troubles.some(({ kind }) => kind === 'broken'))
    troubles.push(...missedTroubles(full.judged));
  const [first] = troubles;
  return { isWell: !first, sentence: first?.message ?? wellWords(path, full.judged, about), troubles };
}

function unreachable(): TroubleAnswer {
  return { isWell: false, sentence: VISITS_TEXTS.troubleNoPage, troubles: [] };
}

/** The page with all snippets, and without any. */
async function lookBothWays(
  work: TroubleWork,
  becauseFull: string,
  becauseBare: string,
): Promise<{ readonly full: Looked; readonly bare: Looked }> {
  const all = work.ground.snapshot.snippets.map(({ key }) => key);
  const [full, bare] = await Promise.all([
    look(work, [], VISITS_TEXTS.troubleAll, becauseFull),
    look(work, all, VISITS_TEXTS.troubleBare, becauseBare),
  ]);
  return { full, bare };
}

async function look(
  { root, round, ground, tools, question: { path, device }, signal }: TroubleWork,
  without: readonly string[],
  title: string,
  because: string,
  instead?: Snapshot,
): Promise<Looked> {
  signal.throwIfAborted();
  const script = { device, steps: [{ do: 'open', path }] } as const;
  const visit = await addVisit(root.fork(), round, { path, title, because, script, without });
  const on = instead ? { ...ground, instead } : ground;
  const made = await visitOnce(on, { script, without }, tools);
  await saveVisit(root.fork(), visit, made);
  const load = made.evidence.loads.at(-1);
  // A page that takes the browser down stops answering, too.
  const isDead = made.evidence.failure === 'crashed' || made.evidence.failure === 'timeout';
  return {
    load: load && isDead ? { ...load, isHung: true } : load,
    judged: made.judged.at(-1),
  };
}

/** The symptoms that only the page with the snippets has, by whom a visit without makes them go away. */
async function breakages(
  work: TroubleWork,
  full: LoadEvidence,
  judged: JudgedLoad,
  bare: LoadEvidence,
): Promise<readonly Trouble[]> {
  const found = await lastingOnes(work, damageOf(full, bare).filter(isGrave), bare);
  const troubles: Trouble[] = [];
  const left = [...found];
  const running = runningOn(work);
  const looked = new Map<string, Promise<Looked>>();
  const lookWithout = (without: readonly string[], symptom: Symptom): Promise<Looked> => {
    const key = [...without].sort().join('\n');
    let looking = looked.get(key);
    if (!looking) {
      const names = without.map((one) => nameOf(work, one));
      const title = say(VISITS_TEXTS.troubleWithout, { names });
      const because = say(VISITS_TEXTS.troubleWithoutWhy, { symptom: symptom.message });
      looked.set(key, (looking = look(work, without, title, because)));
    }
    return looking;
  };
  for (let symptom = left.shift(); symptom; symptom = left.shift()) {
    const current = symptom;
    const suspects = [...troubles.flatMap(({ culprits }) => culprits), ...suspectsOf(symptom, full, judged)];
    const keys = await blame(running, suspects, async (without) => {
      const { load } = await lookWithout(without, current);
      return !load || hasSymptom(current, load, bare);
    });
    // Symptoms of one culprit are one trouble.
    const known = troubles.findIndex(({ culprits }) => culprits.join() === keys.join());
    if (known < 0) {
      const snippets = await Promise.all(keys.map((key) => blamed(work, key, keys.length, symptom, bare)));
      troubles.push(brokenTrouble({ symptoms: [symptom], snippets }));
    } else
      troubles[known] = { ...troubles[known]!, evidence: [...troubles[known]!.evidence, symptom.message] };
  }
  return troubles;
}

/** Those that are there the next time, too: nobody is blamed for what a page does by chance. */
async function lastingOnes(
  work: TroubleWork,
  found: readonly Symptom[],
  bare: LoadEvidence,
): Promise<readonly Symptom[]> {
  if (!found.some(mayVary)) return found;
  const again = await lookBothWays(work, VISITS_TEXTS.troubleAgainWhy, VISITS_TEXTS.troubleAgainWhy);
  const { load } = again.full;
  const others = [bare, again.bare.load];
  return found.filter(
    (one) => !mayVary(one) || (load && others.every((other) => other && hasSymptom(one, load, other))),
  );
}

/** A culprit with its history. Of several that do it only together, nobody knows whose change it was. */
async function blamed(
  work: TroubleWork,
  key: string,
  count: number,
  symptom: Symptom,
  bare: LoadEvidence,
): Promise<BlamedSnippet> {
  const name = nameOf(work, key);
  const { since, formers } = await work.historyOf(key);
  const former = count === 1 ? await formerForms(work, name, formers, symptom, bare) : undefined;
  return {
    ...{ key, name },
    ...(since === undefined ? {} : { since }),
    ...(former ? { former } : {}),
  };
}

/** Since when a snippet breaks the page: by visits with it as it was; undefined where nobody can tell. */
async function formerForms(
  work: TroubleWork,
  name: string,
  formers: readonly FormerSnippet[],
  symptom: Symptom,
  bare: LoadEvidence,
): Promise<FormerForms | undefined> {
  const [oldest] = formers;
  if (!oldest) return undefined;
  const well = await newestWell(formers.length, (at) => wasWell(work, name, formers[at]!, symptom, bare));
  if (well === undefined) return undefined;
  if (well === null) return { well, oldest: oldest.release };
  const after = formers[well + 1];
  return { well: formers[well]!.release, ...(after ? { brokenSince: after.release } : {}) };
}

/** Whether a symptom is gone with a snippet as it was; undefined where the page could not be opened. */
async function wasWell(
  work: TroubleWork,
  name: string,
  { release, snapshot }: FormerSnippet,
  symptom: Symptom,
  bare: LoadEvidence,
): Promise<boolean | undefined> {
  const title = say(VISITS_TEXTS.troubleFormer, { name, release });
  const because = say(VISITS_TEXTS.troubleFormerWhy, { symptom: symptom.message });
  const { load } = await look(work, [], title, because, snapshot);
  return load && !hasSymptom(symptom, load, bare);
}

/** An error that does no other harm is its snippet's rung, and breaks no page. */
function isGrave({ weight }: Symptom): boolean {
  return weight > 1;
}

/** Whom the evidence names: the owner of the error, or of what covers the page. */
function suspectsOf(
  { id }: Symptom,
  full: LoadEvidence,
  { owners, covered, weights }: JudgedLoad,
): readonly string[] {
  if (id === 'covered') return covered.flatMap(({ by }) => by.snippet ?? []);
  if (id === 'blocked' || id === 'slow')
    return [...weights]
      .sort((a, b) => b.blockingMs - a.blockingMs)
      .slice(0, 2)
      .flatMap(({ snippet }) => snippet ?? []);
  return full.exceptions.flatMap((_, index) => owners.exceptions[index]?.snippet ?? []);
}

function runningOn({
  ground: { snapshot, host },
  question: { path, device },
}: TroubleWork): readonly string[] {
  const { environment } = host;
  const plan = planPage(snapshot, {
    page: pageAddress(path, host.host),
    environment,
    device,
    at: Date.now(),
    consent: [],
  });
  return [...new Set(plan.parts.map(({ snippet }) => snippet))];
}

function nameOf({ ground }: TroubleWork, key: string): string {
  return ground.snapshot.snippets.find((one) => one.key === key)?.name ?? key;
}
