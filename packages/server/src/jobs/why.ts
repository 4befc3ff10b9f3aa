import type { WhyAnswerResource, WhyEvent, WhyInput } from '@pragmatica/contract';
import {
  momentWords,
  stepsFor,
  untilWords,
  whyFromSettings,
  whyWithVisit,
  type PageLoad,
  type SnippetRungs,
  type Snapshot,
  type VisitScript,
  type VisitStep,
  type WhyAnswer,
  type WhyQuestion,
  deviceName,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { findHost, toLoad } from '../site/page-plan.js';
import type { Sets } from '../site/sets.js';
import { findSite } from '../site/site-lock.js';
import type { Acting } from '../site/use-case.js';
import { startVisits } from '../site/visits/start-visits.js';
import type { Host } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { endRound, type VisitRound } from '../storage/visit-rounds.js';
import type { Visit } from '../storage/visits.js';
import { say } from '../texts/say.js';
import { VISITS_TEXTS } from '../texts/visits.js';
import { awaitVisit, seenBy } from './await-visit.js';
import type { JobQueue } from './queue.js';

export interface WhyTools extends Acting {
  readonly sets: Sets;
  readonly queue: Pick<JobQueue, 'send'>;
}

/** The question, with what was left out filled in. */
export type WhyRequest = WhyInput & { readonly site: string; readonly path: string };

/**
 * Why a snippet does not show on a page: at once what settings tell, then, where these say that it should, what a visit saw. Ends
 * with whoever asks; the visit is then called off.
 *
 * @throws ServiceError 404, 422
 */
export async function* why(input: WhyRequest, tools: WhyTools): AsyncGenerator<WhyEvent> {
  const { store: root, sets } = tools;
  const store = root.fork();
  const site = await findSite(store, input.site);
  const host = await findHost(store, site, input);
  const environment = host?.environment ?? input.environment ?? 'live';
  const served = await sets.served(store, site, environment);
  const { snapshot: draft } = await sets.draft(store, site);
  const snapshot = served?.snapshot ?? draft;
  const question: WhyQuestion = {
    snippet: input.snippet,
    draft,
    served: served && { release: served.number, snapshot: served.snapshot },
    load: toLoad(input, snapshot, environment, host),
  };
  const settings = whyFromSettings(question);
  if (!settings) throw new ServiceError('no-such-snippet', { site: site.key, snippet: input.snippet });
  const visited = settings.isWell === null && input.visit !== false ? host : undefined;
  yield {
    type: 'settings',
    answer: toResource(settings, question, snapshot),
    isFinal: visited === undefined,
  };
  if (visited) yield* lookAtIt(input, settings, question, visited, snapshot, tools);
}

async function* lookAtIt(
  input: WhyRequest,
  settings: WhyAnswer,
  question: WhyQuestion,
  host: Host,
  snapshot: Snapshot,
  tools: WhyTools,
): AsyncGenerator<WhyEvent> {
  const script = scriptFor(question, input.path, snapshot);
  const round = await startVisits(
    input.site,
    {
      environment: host.environment,
      host: host.host,
      pages: [input.path],
      draft: false,
    },
    { store: tools.store.fork(), actor: tools.actor },
    {
      given: [
        {
          path: input.path,
          title: say(VISITS_TEXTS.whyTitle, { name: settings.name }),
          because: VISITS_TEXTS.whyBecause,
          script,
        },
      ],
    },
  );
  await tools.queue.send('visits', { round: round.id });
  yield { type: 'visiting', round: round.number };
  let isOver = false;
  try {
    const { visit, ended } = await awaitVisit(tools.store, round);
    isOver = true;
    const answer = await answerOf(tools.store.fork(), settings, question, visit, ended);
    yield {
      type: 'answer',
      answer: toResource(answer, question, snapshot),
      round: round.number,
      visit: visit?.number ?? 1,
    };
  } finally {
    if (!isOver) await endRound(tools.store.fork(), round.id, 'cancelled');
  }
}

async function answerOf(
  store: Store,
  settings: WhyAnswer,
  question: WhyQuestion,
  visit: Visit | undefined,
  ended: VisitRound,
): Promise<WhyAnswer> {
  const seen = await seenBy(store, visit, ended);
  if ('failure' in seen) return whyWithVisit(settings, question, undefined, seen.failure);
  const rungs: SnippetRungs | undefined = seen.visit.judged
    ?.at(-1)
    ?.snippets.find(({ snippet }) => snippet === settings.snippet);
  return whyWithVisit(settings, question, rungs, undefined);
}

/** A visit in which everything comes true that the snippet waits for. */
function scriptFor(
  { snippet: key, load: { device, width, consent, visitor, at } }: WhyQuestion,
  path: string,
  { snippets }: Snapshot,
): VisitScript {
  const rules = snippets.find((one) => one.key === key)?.limits?.visitor;
  const open: VisitStep = { do: 'open', path };
  const doing = rules ? stepsFor([rules]) : [];
  const isBack = visitor === 'returning' || rules?.who === 'returning';
  const isNow = Math.abs(at - Date.now()) < 60_000;
  return {
    device,
    ...(width === undefined ? {} : { width }),
    ...(isNow ? {} : { clock: at }),
    steps: [
      open,
      ...(consent.length > 0 ? ([{ do: 'consent', choice: 'accept' }, open] as const) : []),
      ...(isBack ? ([{ do: 'return', path, days: 1 }] as const) : []),
      ...doing,
    ],
  };
}

function toResource(answer: WhyAnswer, { load }: WhyQuestion, snapshot: Snapshot): WhyAnswerResource {
  const { steps, hints, until, cause, stopsAt, ...rest } = answer;
  return {
    ...rest,
    ...(stopsAt === undefined ? {} : { stopsAt }),
    ...(cause === undefined ? {} : { cause: { ...cause, evidence: [...cause.evidence] } }),
    steps: steps.map(({ cause: why, notes, ...step }) => ({
      ...step,
      ...(why === undefined ? {} : { cause: { ...why, evidence: [...why.evidence] } }),
      ...(notes === undefined ? {} : { notes: [...notes] }),
    })),
    hints: [...hints],
    until: until === undefined ? null : new Date(until).toISOString(),
    untilWords: untilWords(answer, snapshot, Date.now()) ?? null,
    question: questionWords(load, snapshot),
  };
}

function questionWords({ page, environment, device, at, consent }: PageLoad, { site }: Snapshot): string {
  return [
    `${page.host}${page.pathname}`,
    environment,
    deviceName(device),
    momentWords(at, site.timeZone),
    consent.length === 0 ? '' : consent.join(', '),
  ]
    .filter(Boolean)
    .join(' · ');
}
