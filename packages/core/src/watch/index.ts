export {
  PAGES,
  standingWords,
  standingsOf,
  type Lost,
  type LostAt,
  type SnippetStanding,
  type StandingState,
} from './standing.js';
export {
  confirmed,
  isNews,
  isOfRelease,
  knownAfter,
  newsOf,
  type KnownLoss,
  type KnownStanding,
  type Loss,
  type News,
} from './news.js';
export {
  newsWords,
  noticeOf,
  subjectOf,
  testNotice,
  type Notice,
  type NoticeOf,
  type PutBack,
} from './notice.js';
export { actNoticeOf, isForPeople, type Act, type ActNoticeOf } from './act-notice.js';
export { MAX_ATTEMPTS, retryAfterS } from './retry.js';
export {
  isSurveyNews,
  surveyNewsOf,
  surveyNoticeOf,
  type ForeignThing,
  type LostPage,
  type SurveyNews,
  type SurveyNoticeOf,
  type SurveyPair,
} from './survey-news.js';
