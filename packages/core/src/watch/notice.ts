import { say } from '../texts/say.js';
import { LOST_WORDS, WATCH_TEXTS as T } from '../texts/watch.js';
import { whoWords } from '../verify/index.js';
import type { Loss, News } from './news.js';
import { PAGES, lostWords } from './standing.js';

/** What happened to the release after which something was lost. */
export type PutBack = 'done' | 'offered' | null;

/** What a notice is about besides its news. */
export interface NoticeOf {
  readonly site: string;
  readonly host: string;
  /** When the visits ended, in the site's zone, in words. */
  readonly moment: string;
  /** The release after whose publishing the visits were made; null where it was the schedule. */
  readonly release: number | null;
  readonly former: number | null;
  readonly putBack: PutBack;
  /** Where all of it is shown. */
  readonly address: string;
}

/** A message for people. */
export interface Notice {
  readonly subject: string;
  readonly text: string;
}

/** What happened, in one line: the worst first. */
export function newsWords({ lost, back }: News): string {
  return inOneLine([...lost.map(lossWords), ...(back.length === 0 ? [] : [backWords(back)])]);
}

/** The first of several things, and how many more there are. */
function inOneLine([first = '', ...more]: readonly string[]): string {
  return more.length === 0 ? first : say(T.subjectMore, { what: first, more: more.length });
}

/** @param words - what happened, the worst first */
export function subjectOf(site: string, words: readonly string[]): string {
  return say(T.subject, { site, what: inOneLine(words) });
}

function lossWords({ at, snippets }: Loss): string {
  if (snippets.some(({ snippet }) => snippet === PAGES)) return T.lostPages;
  const rung = say(LOST_WORDS[at], { count: snippets.length });
  return snippets.length === 1
    ? say(T.lostOne, { name: snippets[0]!.name, rung })
    : say(T.lostMore, { count: snippets.length, rung });
}

function backWords(back: News['back']): string {
  if (back.length > 1) return say(T.backMore, { count: back.length });
  const [{ snippet, name }] = back as [News['back'][number]];
  return snippet === PAGES ? T.backPages : say(T.backOne, { name });
}

/** The whole message, as mail has it. */
export function noticeOf(news: News, of: NoticeOf): Notice {
  const { host, moment, release, former, putBack, address } = of;
  const paragraphs = [
    release === null ? say(T.intro, { host, moment }) : say(T.introRelease, { host, moment, release }),
    ...(news.lost.length === 0
      ? []
      : [T.lostHeading, ...news.lost.flatMap(({ snippets }) => lossParagraphs(snippets))]),
    ...(news.back.length === 0 ? [] : [T.backHeading, news.back.map(({ name }) => `- ${name}`).join('\n')]),
    ...(putBack === null || former === null
      ? []
      : [say(putBack === 'done' ? T.wasPutBack : T.mayPutBack, { former })]),
    say(T.link, { address }),
    T.quiet,
  ];
  return {
    subject: subjectOf(of.site, [newsWords(news)]),
    text: `${paragraphs.join('\n\n')}\n`,
  };
}

/** One for each message; what has the same says it once. */
function lossParagraphs(snippets: Loss['snippets']): string[] {
  return snippets.map(({ name, cause, paths }) =>
    [
      `- ${say(T.entry, { name, message: lostWords({ cause, paths }) })}`,
      `  ${say(T.advice, { advice: cause.advice })}`,
      `  ${say(T.who, { who: whoWords(cause.who) })}`,
    ].join('\n'),
  );
}

/** What is sent to try whether anything comes. */
export function testNotice(site: string): Notice {
  return { subject: say(T.testSubject, { site }), text: `${say(T.test, { site })}\n` };
}
