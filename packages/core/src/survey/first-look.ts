import type { ShapeKind } from '../facts/index.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';

/** A thing in the pages that somebody else put there. */
export interface LookedAtThing {
  readonly name: string;
  readonly provider: string;
  readonly shape: ShapeKind;
  /** On how many of the pages. */
  readonly pages: number;
}

/** What a small survey saw of a site. */
export interface LookedAtSite {
  /** Pages that were read. */
  readonly pages: number;
  /** Pages that were visited and could not be read. */
  readonly failed: number;
  /** There are more than were visited. */
  readonly hasMore: boolean;
  readonly things: readonly LookedAtThing[];
  /** Pages that say which scripts may run on them. */
  readonly withPolicy: number;
}

/** So many pages tell enough for a beginning. */
export const FIRST_LOOK_PAGES = 12;

/** So many are named; others are counted. */
const NAMED = 6;
/** Of these a site mostly wants one. */
const ONE_IS_ENOUGH = ['analytics', 'container', 'chat', 'consent'] as const satisfies readonly ShapeKind[];

/** What was seen of a site, for its owner: a sentence each, the most telling first. */
export function firstLook({ pages, failed, hasMore, things, withPolicy }: LookedAtSite): string[] {
  const lines = [say(hasMore ? SURVEY_TEXTS.lookSome : SURVEY_TEXTS.lookAll, { pages })];
  if (pages === 0) return [SURVEY_TEXTS.lookNone];
  if (failed > 0) lines.push(say(SURVEY_TEXTS.lookFailed, { failed }));
  const known = things.filter(({ name }) => name !== '').sort((a, b) => b.pages - a.pages);
  const [first] = known;
  if (!first) lines.push(SURVEY_TEXTS.lookEmpty);
  else {
    const named = known.slice(0, NAMED).map((thing) => nameWords(thing, pages));
    const more = known.length - named.length;
    const list = more > 0 ? [...named, say(SURVEY_TEXTS.lookMore, { more })] : named;
    lines.push(say(SURVEY_TEXTS.lookThings, { list }));
  }
  for (const shape of ONE_IS_ENOUGH) {
    const names = [...new Set(known.filter((one) => one.shape === shape).map(({ name }) => name))];
    if (names.length > 1) lines.push(say(SURVEY_TEXTS.lookSeveral, { shape, list: names }));
  }
  const asks = known.find(({ shape }) => shape === 'consent');
  if (asks) lines.push(say(SURVEY_TEXTS.lookConsent, { name: asks.name }));
  if (withPolicy > 0) lines.push(say(SURVEY_TEXTS.lookPolicy, { pages: withPolicy }));
  return lines;
}

function nameWords({ name, pages: on }: LookedAtThing, pages: number): string {
  return on >= pages ? name : say(SURVEY_TEXTS.lookOnSome, { name, on });
}
