import { say } from '../texts/say.js';
import { SURVEY_NEWS_TEXTS as T } from '../texts/survey-news.js';
import { subjectOf, type Notice } from './notice.js';

/** A script, frame or pixel in the pages that is none of ours. */
export interface ForeignThing {
  readonly key: string;
  readonly name: string;
  /** How many pages have it. */
  readonly pages: number;
  /** One of them. */
  readonly example: string;
}

/** A page that was read before and is not any more. */
export interface LostPage {
  readonly path: string;
  /** What it answered now; null where nothing did, undefined where no way led to it. */
  readonly status: number | null | undefined;
}

/** Two surveys of a host. */
export interface SurveyPair {
  readonly before: readonly ForeignThing[];
  readonly after: readonly ForeignThing[];
  readonly lost: readonly LostPage[];
  /** Keys of what somebody has said to be all right. */
  readonly ignored: ReadonlySet<string>;
  /** The later one ended before it had seen all pages: one that it did not come to may be there. */
  readonly isCut: boolean;
  /** The earlier one had, and the later one came further: what it found there may be old. */
  readonly wasCut: boolean;
}

/** What somebody should hear of. */
export interface SurveyNews {
  /** What stands on most pages first. */
  readonly appeared: readonly ForeignThing[];
  readonly gone: readonly string[];
  readonly failing: readonly string[];
}

/** What is new in a site that nobody here has done: the rest of what differs is in the surveys' own comparison. */
export function surveyNewsOf({ before, after, lost, ignored, isCut, wasCut }: SurveyPair): SurveyNews {
  const known = new Set(before.map(({ key }) => key));
  const isGone = ({ status }: LostPage): boolean =>
    status === undefined ? !isCut : status !== null && status >= 400 && status < 500;
  const isFailing = ({ status }: LostPage): boolean =>
    status !== undefined && (status === null || status >= 500);
  return {
    appeared: after
      .filter(({ key }) => !wasCut && !known.has(key) && !ignored.has(key))
      .sort((a, b) => b.pages - a.pages || a.name.localeCompare(b.name)),
    gone: lost.filter(isGone).map(({ path }) => path),
    failing: lost.filter(isFailing).map(({ path }) => path),
  };
}

export function isSurveyNews({ appeared, gone, failing }: SurveyNews): boolean {
  return appeared.length + gone.length + failing.length > 0;
}

/** What it is about besides its news. */
export interface SurveyNoticeOf {
  readonly site: string;
  readonly host: string;
  /** When the survey ended, in the site's zone, in words. */
  readonly moment: string;
  /** Number of the survey that it is held against. */
  readonly before: number;
  readonly address: string;
}

const MAX_LISTED = 10;

/** The whole message, as mail has it. */
export function surveyNoticeOf(news: SurveyNews, { site, address, ...of }: SurveyNoticeOf): Notice {
  const { appeared, gone, failing } = news;
  const things = appeared.map(({ name, pages, example }) =>
    say(T.appearedEntry, { name, pages, page: example }),
  );
  const paragraphs = [
    say(T.intro, of),
    ...section(T.appearedHeading, things, T.appearedAdvice),
    ...section(T.goneHeading, gone, T.goneAdvice),
    ...section(T.failingHeading, failing, T.failingAdvice),
    say(T.link, { address }),
    T.quiet,
  ];
  return {
    subject: subjectOf(site, surveyNewsWords(news)),
    text: `${paragraphs.join('\n\n')}\n`,
  };
}

function section(heading: string, entries: readonly string[], advice: string): string[] {
  if (entries.length === 0) return [];
  const listed = entries.slice(0, MAX_LISTED);
  const more = entries.length - listed.length;
  const lines = [...listed, ...(more > 0 ? [say(T.listMore, { more })] : [])].map((line) => `- ${line}`);
  return [heading, lines.join('\n'), advice];
}

/** What happened, one line for each. */
function surveyNewsWords({ appeared, gone, failing }: SurveyNews): string[] {
  const [first] = appeared;
  return [
    ...(first
      ? [
          appeared.length === 1
            ? say(T.appearedOne, { name: first.name, pages: first.pages })
            : say(T.appearedMore, { count: appeared.length }),
        ]
      : []),
    ...countWords(gone, T.goneOne, T.goneMore),
    ...countWords(failing, T.failingOne, T.failingMore),
  ];
}

function countWords(
  paths: readonly string[],
  one: typeof T.goneOne | typeof T.failingOne,
  other: typeof T.goneMore | typeof T.failingMore,
): string[] {
  const [page, ...more] = paths;
  if (page === undefined) return [];
  return [more.length === 0 ? say(one, { page }) : say(other, { count: paths.length })];
}
