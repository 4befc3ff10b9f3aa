import { randomUUID } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import { holdPages, openPages, returnPages, takePages, type TakenPage } from '../storage/survey-pages.js';
import { takeFiles } from '../storage/survey-files.js';
import { beatSurvey, endSurvey, surveyById, takeTurn, type Survey } from '../storage/surveys.js';
import { finishSurvey } from './finish-survey.js';
import { openSurvey, resumeSurvey, type OpenSurvey } from './open-survey.js';
import { readFiles } from './read-files.js';
import { robotsRules } from './robots.js';
import { VisitsSaver } from './save-visits.js';
import type { SurveyTools } from './tools.js';
import { visitPage, type Visited, type Visitor } from './visit-page.js';

/** Pages that a lane takes at once, for each request that it may make at the same time. */
const PAGES_PER_REQUEST = 8;
/** While others still read pages that may lead to more. */
const WAIT_MS = 150;
const BEAT_MS = 2_000;

/**
 * Works on a survey, alone or beside other workers, until nothing is left of it. What is broken off is taken up by
 * whoever works on it next.
 *
 * @param most - requests that this worker makes at once; as many as were asked for when left out
 * @param onOpen - called where this worker opened it, so that others join in; gives `most` from then on
 */
export async function walkSurvey(
  id: number,
  most: number | undefined,
  shared: SurveyTools,
  stop: AbortSignal,
  onOpen: (survey: Survey) => Promise<number>,
): Promise<void> {
  const tools = { ...shared, store: shared.store.fork() };
  const open = await resumeSurvey(id, tools);
  if (!open) return;
  const over = new AbortController();
  const signal = AbortSignal.any([stop, over.signal]);
  const held = new Set<number>();
  const beat = setInterval(() => {
    const store = tools.store.fork();
    // Somebody may have cancelled it; where the database is away, that is found out by the work itself.
    void Promise.all([beatSurvey(store, id), holdPages(store, [...held])]).then(
      ([state]) => state !== 'waiting' && state !== 'running' && over.abort(),
      () => undefined,
    );
  }, BEAT_MS);
  try {
    const isOpener = open.survey.startedAt === null && (await openSurvey(open, tools, signal));
    const concurrency = isOpener ? await onOpen(open.survey) : (most ?? open.survey.options.concurrency);
    const survey = await surveyById(tools.store.fork(), id);
    if (survey?.state === 'running') await walk({ ...open, survey }, concurrency, tools, held, signal);
  } catch (error) {
    if (!signal.aborted) throw error;
  } finally {
    clearInterval(beat);
    over.abort();
  }
}

/** Two lanes: while one writes down what it read, the other goes on reading. */
async function walk(
  open: OpenSurvey,
  most: number,
  tools: SurveyTools,
  held: Set<number>,
  signal: AbortSignal,
): Promise<void> {
  const { survey } = open;
  const delayMs = Math.max(
    survey.options.delayMs,
    survey.options.ignoreRobots ? 0 : (survey.robots?.delayMs ?? 0),
  );
  const concurrency = delayMs > 0 ? 1 : most;
  const lanes = concurrency > 1 ? 2 : 1;
  const saver = new VisitsSaver(survey);
  const visitor: Visitor = {
    client: open.pages,
    readers: tools.readers,
    base: open.base,
    rules: robotsRules(survey.robots, open.base, survey.options.ignoreRobots),
    host: survey.host,
    plans: open.plans,
    edition: randomUUID(),
    signal,
    log: tools.log,
    async turn() {
      if (delayMs === 0) return;
      const wait = await takeTurn(tools.store.fork(), survey.id, delayMs);
      if (wait > 0) await sleep(wait, undefined, { signal });
    },
  };
  const lane = new Lane(open, tools, visitor, saver, held, Math.ceil(concurrency / lanes));
  await Promise.all(Array.from({ length: lanes }, () => lane.run(delayMs > 0 ? 1 : PAGES_PER_REQUEST)));
}

class Lane {
  constructor(
    readonly open: OpenSurvey,
    readonly tools: SurveyTools,
    readonly visitor: Visitor,
    readonly saver: VisitsSaver,
    /** Ids of the pages that this worker is at. */
    readonly held: Set<number>,
    readonly concurrency: number,
  ) {}

  async run(pagesPerRequest: number): Promise<void> {
    const { id } = this.open.survey;
    const { signal } = this.visitor;
    while (!signal.aborted) {
      const store = this.tools.store.fork();
      const pages = await takePages(store, id, this.concurrency * pagesPerRequest, this.open.before);
      if (pages.length > 0) {
        await this.#visit(pages);
        continue;
      }
      const { open, taken } = await openPages(store, id);
      if (open === 0 && taken === 0) {
        if (await takeFiles(store, id)) return this.#finish();
        if ((await surveyById(store, id))?.state !== 'running') return;
      }
      await sleep(WAIT_MS, undefined, { signal });
    }
  }

  /** When all pages are read. */
  async #finish(): Promise<void> {
    const { id } = this.open.survey;
    await readFiles(this.open, this.tools, this.visitor, this.visitor.signal);
    if (this.visitor.signal.aborted) return;
    if (await endSurvey(this.tools.store.fork(), id, 'done'))
      await finishSurvey(this.open.survey, this.tools);
  }

  /** What was not read when the work is broken off is given back. */
  async #visit(pages: readonly TakenPage[]): Promise<void> {
    const waiting = [...pages];
    for (const { id } of pages) this.held.add(id);
    const visits: Visited[] = [];
    const hand = async (): Promise<void> => {
      for (let page = waiting.shift(); page; page = waiting.shift()) {
        if (this.visitor.signal.aborted) return;
        visits.push(await visitPage(page, this.visitor));
      }
    };
    const hands = await Promise.allSettled(Array.from({ length: this.concurrency }, hand));
    for (const { id } of pages) this.held.delete(id);
    const store = this.tools.store.fork();
    await this.saver.save(store, visits);
    const saved = new Set(visits.map((visit) => (visit.kind === 'done' ? visit.page.id : visit.id)));
    const left = pages.filter(({ id }) => !saved.has(id)).map(({ id }) => ({ id, afterMs: 0 }));
    await returnPages(store, left);
    const failed = hands.find((result) => result.status === 'rejected');
    if (failed) throw failed.reason;
  }
}
