import type { EndpointResponse, Endpoints } from '@pragmatica/contract';
import {
  DEVICE_WINDOWS,
  stepWords,
  type JudgedLoad,
  type KeptOwner,
  type LoadEvidence,
  type VisitEvidence,
  type VisitStep,
} from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import type { Store } from '../../storage/store.js';
import { evidenceOf, screenshotOf, type Visit } from '../../storage/visits.js';
import { say } from '../../texts/say.js';
import { VISITS_TEXTS } from '../../texts/visits.js';
import { findVisit, visitResource } from './visit-resource.js';

type VisitDetail = EndpointResponse<Endpoints['showVisit']>;

/** What a visit saw. @throws ServiceError 404, also for one that has not been made */
export async function loadEvidence(
  store: Store,
  key: string,
  reference: 'latest' | number,
  number: number,
): Promise<{ readonly round: number; readonly visit: Visit; readonly evidence: VisitEvidence }> {
  const { round, visit } = await findVisit(store, key, reference, number);
  const evidence = await evidenceOf(store, visit);
  if (!evidence) throw new ServiceError('visit-not-made', { round: round.number, number });
  return { round: round.number, visit, evidence };
}

/** One visit, as the API shows it. @throws ServiceError 404 */
export async function showVisit(
  store: Store,
  key: string,
  reference: 'latest' | number,
  number: number,
): Promise<VisitDetail> {
  const { round, visit, evidence } = await loadEvidence(store, key, reference, number);
  const { script, browser, steps, loads } = evidence;
  const usual = DEVICE_WINDOWS[script.device];
  const judged = visit.judged ?? [];
  return {
    round,
    visit: visitResource(visit),
    browser,
    window: { width: script.width ?? usual.width, height: usual.height },
    steps: script.steps.map((step, index) => {
      const outcome = steps.find((one) => one.step === index);
      return {
        words: stepWords(step),
        isDone: outcome?.isDone ?? null,
        note: outcome ? noteWords(step, outcome) : null,
        atMs: outcome?.atMs ?? null,
      };
    }),
    loads: toLoads(loads, judged),
  };
}

function noteWords(step: VisitStep, { isDone, note }: VisitEvidence['steps'][number]): string | null {
  if (step.do !== 'consent') return note ?? null;
  if (isDone) return say(VISITS_TEXTS.clicked, { text: note ?? '' });
  return note === undefined ? VISITS_TEXTS.bannerNotFound : say(VISITS_TEXTS.bannerCovered, { what: note });
}

/** Loads that reached nothing were not judged, so that they are matched in order. */
function toLoads(loads: readonly LoadEvidence[], judged: readonly JudgedLoad[]): VisitDetail['loads'] {
  const left = [...judged];
  return loads.map((load) => toLoad(load, load.status === null ? undefined : left.shift()));
}

function toLoad(load: LoadEvidence, judged: JudgedLoad | undefined): VisitDetail['loads'][number] {
  const { url, finalUrl, status, endMs, isHung, globals } = load;
  const owner = (
    kind: keyof JudgedLoad['owners'],
    index: number,
  ): { snippet?: string | null; via?: readonly string[] } => {
    const found: KeptOwner = judged?.owners[kind][index] ?? {};
    return {
      ...(found.snippet === undefined ? {} : { snippet: found.snippet }),
      ...(found.via === undefined ? {} : { via: found.via }),
    };
  };
  return {
    ...{ url, finalUrl, status, endMs, isHung, globals },
    startedAt: new Date(load.startedAt).toISOString(),
    readyMs: load.readyMs ?? null,
    loadedMs: load.loadedMs ?? null,
    window: { width: Math.round(load.window.width), height: Math.round(load.window.height) },
    screenshot: load.screenshot ?? null,
    requests: load.requests.map((request, index) => ({
      url: request.url,
      method: request.method,
      kind: request.kind,
      status: request.status ?? null,
      failure: request.failure ?? null,
      startMs: request.startMs,
      endMs: request.endMs ?? null,
      bytes: request.bytes,
      owner: owner('requests', index),
    })),
    exceptions: load.exceptions.map(({ message, atMs, url: file, line, column }, index) => ({
      ...{ message, atMs, at: { url: file, line, column } },
      owner: owner('exceptions', index),
    })),
    console: load.console.map(({ level, text, url: file, atMs }) => ({ level, text, url: file, atMs })),
    violations: load.violations.map(({ directive, blocked, isEnforced }) => ({
      directive,
      blocked,
      isEnforced,
    })),
    elements: load.elements.map((element, index) => ({
      tag: element.tag,
      selector: element.selector,
      text: element.text,
      box: element.box,
      position: element.position,
      isVisible: element.isVisible,
      hidden: element.hidden ?? null,
      coveredBy: element.coveredBy ?? null,
      owner: owner('elements', index),
    })),
    stored: load.writes.map(({ where, key, atMs }, index) => ({
      ...{ where, key, atMs },
      owner: owner('writes', index),
    })),
    views: load.views,
    judged: judged ? withoutOwners(judged) : null,
  };
}

function withoutOwners({ owners: _, ...judged }: JudgedLoad): Omit<JudgedLoad, 'owners'> {
  return judged;
}

/** The page of a visit's last page load. @throws ServiceError 404 */
export async function showVisitPage(
  store: Store,
  key: string,
  reference: 'latest' | number,
  number: number,
): Promise<EndpointResponse<Endpoints['showVisitPage']>> {
  const { evidence } = await loadEvidence(store, key, reference, number);
  const { finalUrl: url, html, dom } = evidence.loads.at(-1) ?? { finalUrl: '', html: '', dom: '' };
  return { url, html, dom };
}

const JPEG_START = Buffer.from([0xff, 0xd8, 0xff]);

/** A picture of a visit. @throws ServiceError 404 */
export async function showScreenshot(
  store: Store,
  key: string,
  reference: 'latest' | number,
  number: number,
  screenshot: number,
): Promise<{ readonly type: 'image/jpeg' | 'image/webp'; readonly data: string }> {
  const { round, visit } = await findVisit(store, key, reference, number);
  const image = await screenshotOf(store, visit, screenshot);
  if (!image)
    throw new ServiceError('no-such-screenshot', { round: round.number, visit: number, number: screenshot });
  // Visits of before brought WebP home.
  const isJpeg = image.subarray(0, 3).equals(JPEG_START);
  return { type: isJpeg ? 'image/jpeg' : 'image/webp', data: image.toString('base64') };
}
