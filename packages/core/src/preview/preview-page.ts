import { parse } from 'parse5';
import type { FactsCache } from '../facts/index.js';
import { findLines, lineName } from '../deliver/index.js';
import { insert } from '../insert/index.js';
import { planDifference, planPage, type PagePlan } from '../plan/index.js';
import { extendPolicy, nonceIn, partNeeds, policiesIn } from '../policy/index.js';
import {
  deviceOf,
  grantedConsent,
  pageAddress,
  type DeviceHeaders,
  type EnvironmentName,
} from '../reach/index.js';
import { filledSnapshot, orderedParts, type Snapshot } from '../snapshot/index.js';
import { say } from '../texts/say.js';
import { PREVIEW_TEXTS } from '../texts/preview.js';
import { asPlanned } from '../verify/index.js';
import { markPage, type MarkWords } from './mark-in-page.js';

/** What a preview shows, and where. */
export interface PreviewGround {
  /** What visitors of the host get now; null while nothing is published. */
  readonly published: Snapshot | null;
  /** What is shown instead. */
  readonly shown: Snapshot;
  /** Its number; null for the draft. */
  readonly release: number | null;
  readonly host: string;
  readonly environment: EnvironmentName;
  /** Where the site's pages stand. */
  readonly origin: string;
  /** The gateway extends policies by what parts need, as it will for the set when it is published. */
  readonly isPolicyOurs: boolean;
  /** Where the preview stands. */
  readonly previewOrigin: string;
  readonly leaveAddress: string;
  /** The moment at which the preview ends, in words. */
  readonly until: string;
}

/** A page as it came. */
export interface PageToPreview {
  /** Path and query. */
  readonly target: string;
  readonly html: string;
  /** Of the answer, names in lower case. */
  readonly headers: Readonly<Record<string, string>>;
  /** What the request said of its device, and its cookies. */
  readonly asked: DeviceHeaders;
  readonly cookies: string;
  /** Milliseconds since 1970. */
  readonly at: number;
}

export interface PreviewedPage {
  readonly html: string;
  /** Headers that are other than they came. */
  readonly headers: Readonly<Record<string, string>>;
}

const POLICIES = ['content-security-policy', 'content-security-policy-report-only'] as const;

/**
 * A page of a site as visitors would get it with another set, marked so that nobody takes it for the site. Whatever the host's way
 * of delivery, what it brings now is taken out (the one line too) and the planned parts are put in. The page's own content policy is
 * extended by what the mark needs, and by what parts need where that will happen once they are published: a preview that lets in more
 * than visitors' pages will would promise too much.
 */
export function previewPage(
  { target, html, headers, asked, cookies, at }: PageToPreview,
  ground: PreviewGround,
  memory: FactsCache,
): PreviewedPage {
  const { published, shown, environment, origin, previewOrigin } = ground;
  const load = {
    page: pageAddress(target, ground.host),
    environment,
    device: deviceOf(asked),
    at,
    consent: grantedConsent(shown.site.consent, cookies),
  };
  const plan = planPage(shown, load);
  const now = published && planPage(published, load);
  const placed = published ? orderedParts(filledSnapshot(published, environment)) : [];
  const bare = withoutLine(html, lineName(shown.site.key, environment), origin + target);
  const page = asPlanned(bare, shown.site.key, placed, plan, headers);
  const nonce = nonceIn(headers['content-security-policy'] ?? '');
  const mark = markCode(wordsOf(ground, plan, now), nonce);
  const codes = ground.isPolicyOurs ? [...plan.parts.map(({ code }) => code), mark] : [mark];
  const needs = codes.flatMap((code) => partNeeds(code, code, memory));
  const extended = POLICIES.flatMap((name) => {
    const policies = policiesIn(headers[name] ?? '');
    if (policies.length === 0) return [];
    const value = policies
      .map((policy) =>
        extendPolicy(overHttp(policy, previewOrigin), needs, previewOrigin, nonceIn(policy) === nonce),
      )
      .map((policy) => policy.value)
      .join(', ');
    return [[name, value] as const];
  });
  return { html: withMark(page, mark), headers: Object.fromEntries(extended) };
}

/** @param nonce - of the page's policy */
export function markCode(words: MarkWords, nonce?: string): string {
  // What ends a script or opens a comment in it has no place in a text either.
  const given = JSON.stringify(words).replaceAll('<', '\\u003c');
  const attribute = nonce === undefined ? '' : ` nonce="${nonce.replaceAll('"', '&quot;')}"`;
  return `<script${attribute}>(function(words){const __name=(made)=>made;(${markPage.toString()})(words)})(${given})</script>`;
}

function withMark(page: string, mark: string): string {
  const { page: marked } = insert(page, [{ key: 'preview-mark', placement: 'head-start', code: mark }]);
  return new TextDecoder().decode(marked);
}

function withoutLine(html: string, name: string, page: string): string {
  return findLines(parse(html, { sourceCodeLocationInfo: true }), name, page)
    .flatMap(({ range }) => (range ? [range] : []))
    .sort((a, b) => b.start - a.start)
    .reduce((text, { start, end }) => text.slice(0, start) + text.slice(end), html);
}

/** A preview without encryption cannot ask for its own files with it. */
function overHttp(policy: string, previewOrigin: string): string {
  if (previewOrigin.startsWith('https:')) return policy;
  return policy
    .split(';')
    .filter((directive) => !/^\s*(?:upgrade-insecure-requests|block-all-mixed-content)\s*$/i.test(directive))
    .join(';');
}

function wordsOf(ground: PreviewGround, plan: PagePlan, now: PagePlan | null): MarkWords {
  const { shown, host, release, until } = ground;
  const site = shown.site.name;
  const changes = now ? planDifference(now, plan) : [];
  return {
    label: PREVIEW_TEXTS.label,
    what:
      release === null
        ? say(PREVIEW_TEXTS.draft, { site })
        : say(PREVIEW_TEXTS.release, { site, release: String(release) }),
    until: say(PREVIEW_TEXTS.until, { moment: until }),
    heading: !now
      ? say(PREVIEW_TEXTS.nothingPublished, { host })
      : say(changes.length > 0 ? PREVIEW_TEXTS.changes : PREVIEW_TEXTS.sameAsLive, { host }),
    changes,
    notes: [PREVIEW_TEXTS.elsewhere],
    leave: PREVIEW_TEXTS.leave,
    leaveAddress: ground.leaveAddress,
    hide: PREVIEW_TEXTS.hide,
    origin: ground.origin,
  };
}
