import type { Limits } from '@pragmatica/core';
import { atFoot, inHead, page, type Cause, type CauseKind, type CauseSite, type CleanSite } from './cause.js';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
const CHAT = '<script async src="https://parlanook.example/chat.js"></script>';
const PAGES = Object.fromEntries(
  ['/', '/fares', '/timetables/summer', '/timetables/winter', '/booking', '/News/Archive', '/contact/'].map(
    (path) => [path, page(path)],
  ),
);
const NINE_TO_FIVE = [{ from: '09:00', to: '17:00' }];
const WEEK = {
  mon: NINE_TO_FIVE,
  tue: NINE_TO_FIVE,
  wed: NINE_TO_FIVE,
  thu: NINE_TO_FIVE,
  fri: NINE_TO_FIVE,
};

const named = (name: string, pattern: string, says: RegExp, excluded = false): Cause => ({
  name,
  snippets: [inHead('Prices', COUNTER, excluded ? { exclude: [pattern] } : { include: [pattern] })],
  site: { pages: PAGES },
  check: 'pattern-without-page',
  about: ['Prices'],
  says,
});
const said = (statement: string): Cause => ({
  name: `its provider says “${statement}”`,
  snippets: [
    inHead('Pixel', '<script async src="https://glintpixel.example/g.js?id=GP-4417"></script>', {
      statement,
    }),
  ],
  check: 'said-pages',
  about: ['Pixel'],
});
const timed = (
  name: string,
  check: string,
  hours: Limits['hours'],
  says: RegExp,
  zone = 'Europe/London',
): Cause => ({
  name,
  snippets: [atFoot('Harbour chat', CHAT, { limits: { hours: hours! } })],
  check,
  about: ['Harbour chat'],
  says,
  site: { timeZone: zone, now: Date.UTC(2027, 2, 1, 10) },
});
const right = (
  name: string,
  more: Parameters<typeof inHead>[2],
  site: CauseSite | null = { pages: PAGES },
): CleanSite => ({
  name,
  snippets: [inHead('Counter', COUNTER, more)],
  ...(site ? { site } : {}),
});

/** A reach that holds nothing real, or something else than is meant. */
export const REACH_OF_NOTHING: CauseKind = {
  kind: 'reach that holds nothing real',
  wrong: [
    named('a slash too many', '/fares/', /\/fares\b.*slash/s),
    named('a slash too few', '/contact', /\/contact\//),
    named('upper case', '/Fares', /\/fares/),
    named('upper case is right and lower case is written', '/news/archive', /\/News\/Archive/),
    named('a wildcard between', '/*/fares', /\/fares/),
    named('a wildcard in front', '/*-fares', /\/fares/),
    named('a wildcard in the middle of a section', '/timetables/*/summer', /\/timetables\/summer/),
    named('a letter too few', '/fare', /\/fares is close/),
    named('a section that moved', '/timetable/*', /timetables/),
    named('what is left out has a slash too many', '/fares/', /runs there after all/, true),
    said('Only on the confirmation page.'),
    said('Put this on your order confirmation page, just before </head>.'),
    said('Paste into the head of the thank-you page only'),
    said('Add this code to your success page.'),
    said('Only on pages with a booking form'),
    said('Goes in the head, but not on every page.'),
    {
      ...said('In the head of every page.'),
      snippets: [inHead('Pixel', COUNTER, { include: ['/fares'], statement: 'In the head of every page.' })],
    },
    timed('its last day has been', 'reach-empty', { last: '2026-12-31' }, /ended/),
    timed(
      'all its days have been',
      'reach-empty',
      { weekly: {}, exceptions: [{ date: '2026-12-24', spans: NINE_TO_FIVE }] },
      /ended/,
    ),
    timed(
      'its days and its weekdays never fall together',
      'reach-empty',
      { first: '2027-03-06', last: '2027-03-07', weekly: WEEK },
      /never opens/,
    ),
    timed('its first day is to come', 'closed-now', { first: '2027-06-01', weekly: WEEK }, /not started/),
    timed('it is closed until tomorrow', 'closed-now', { weekly: { tue: NINE_TO_FIVE } }, /closed right now/),
    timed('the zone was never set', 'time-zone', { weekly: WEEK }, /UTC/, 'UTC'),
    {
      ...timed('a host of another country', 'time-zone', { weekly: WEEK }, /another time/, 'UTC'),
      site: { timeZone: 'UTC', hosts: [{ host: 'www.skerrywick.nz', environment: 'live' }] },
    },
    {
      ...timed('another snippet names the zone', 'time-zone', { weekly: WEEK }, /Pacific\/Auckland/, 'UTC'),
      snippets: [
        atFoot('Harbour chat', CHAT, { limits: { hours: { weekly: WEEK } } }),
        inHead('Counter', '<script>window.tallySettings = { zone: "Pacific/Auckland" };</script>'),
      ],
      about: ['Harbour chat'],
    },
  ],
  clean: [
    right('the pattern holds a page', { include: ['/fares'] }),
    right('a wildcard stands at the end', { include: ['/timetables/*'] }),
    right('a section below a page that surveys do not reach', { include: ['/booking', '/booking/*'] }),
    right('no survey has been', { include: ['/fares/'] }, null),
    right(
      'the pages are as said',
      { include: ['/booking/done'], statement: 'Only on the confirmation page.' },
      null,
    ),
    right('it runs everywhere, as said', { statement: 'In the head of every page.' }, null),
    right(
      'a page is only spoken of',
      { statement: 'In the head, so that we can count visits to your checkout page.' },
      null,
    ),
    right('the zone is set', { limits: { hours: { weekly: WEEK } } }, { timeZone: 'Pacific/Auckland' }),
    right(
      'a host of a country that keeps UTC',
      { limits: { hours: { weekly: WEEK } } },
      { timeZone: 'UTC', hosts: [{ host: 'www.skerrywick.is', environment: 'live' }] },
    ),
  ],
};
