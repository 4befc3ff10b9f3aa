import { catalogue } from './catalogue.js';

/** What watching a site tells: what was lost, what came back, and what was done about it. */
export const WATCH_TEXTS = catalogue('core.watch', {
  pages: 'The site’s pages',
  pagesFailed:
    '{failed, plural, one {A page} other {# pages}} could not be opened, of {visits, plural, one {# visit} other {# visits}}: {paths}.',
  pagesFailedAdvice: 'Open one of them yourself. If it opens, run the visits again.',
  pagesFailedMany: '{paths} and {more} more',
  lostAt: 'On {paths}: {message}',
  lostOne: '“{name}” {rung}',
  lostMore: '{count} snippets {rung}',
  lostPages: 'pages do not open',
  backOne: '“{name}” works again',
  backMore: '{count} snippets work again',
  backPages: 'pages open again',
  subject: '{site}: {what}',
  subjectMore: '{what}, and {more, plural, one {one more thing} other {# more things}}',
  intro: 'A new visitor to {host} saw this on {moment}.',
  introRelease: 'A new visitor to {host} saw this on {moment}, after release {release} was published.',
  lostHeading: 'No longer works',
  backHeading: 'Works again',
  entry: '{name}: {message}',
  advice: 'What to do: {advice}',
  who: 'Who can: {who}',
  wasPutBack:
    'Release {former} was restored, as this site’s settings say: visitors get it again. The draft is as it was.',
  mayPutBack: 'With release {former} this worked. You can restore it in the console, under “Releases”.',
  link: 'All of it, with pictures: {address}',
  quiet: 'You get no further message about this until something changes.',
  test: 'A test message from Pragmatica. Messages about {site} will look like this and come here.',
  testSubject: '{site}: a test message',
  wellCell: 'Works.',
  waitingCell: 'Waits for something that no visit did.',
  leftOutCell: 'Not expected on any page that was visited.',
});

/** What a lost rung means, said of the snippet: “Shop chat” no longer loads. */
export const LOST_WORDS = catalogue('core.lost-words', {
  delivered: '{count, plural, one {is} other {are}} no longer in the page',
  loaded: 'no longer {count, plural, one {loads} other {load}}',
  ran: 'no longer {count, plural, one {runs} other {run}} without errors',
  shown: 'no longer {count, plural, one {shows} other {show}}',
  reported: 'no longer {count, plural, one {reports} other {report}}',
  'out-of-reach':
    '{count, plural, one {runs} other {run}} where {count, plural, one {it} other {they}} should not',
});
