export {
  PAGES,
  standingWords,
  standingsOf,
  type LostAt,
  type SnippetStanding,
  type StandingState,
} from './standing.js';
export {
  confirmed,
  isNews,
  isOfRelease,
  knownAfter,
  knownNext,
  newsOf,
  type KnownStanding,
  type Loss,
  type News,
} from './news.js';
export { newsWords, noticeOf, testNotice, type Notice, type NoticeOf, type PutBack } from './notice.js';
export { MAX_ATTEMPTS, retryAfterS } from './retry.js';
