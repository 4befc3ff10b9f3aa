import { catalogue } from './catalogue.js';

/** What a planned survey tells about the real site, where something is new in it. */
export const SURVEY_NEWS_TEXTS = catalogue('core.survey-news', {
  appearedOne: '“{name}” is new on {pages, plural, one {a page} other {# pages}}',
  appearedMore: '{count} new scripts in the pages',
  goneOne: '{page} is gone',
  goneMore: '{count} pages are gone',
  failingOne: '{page} does not answer',
  failingMore: '{count} pages do not answer',
  intro: 'The survey of {host} on {moment} found this. Survey {before} had not.',
  appearedHeading: 'New in the pages, and not from here',
  appearedEntry: '{name}: on {pages, plural, one {{page}} other {# pages, such as {page}}}',
  appearedAdvice:
    'If you know it, ignore it under “The real site” or take it over as a snippet. If nobody knows it, find out who added it.',
  goneHeading: 'Gone',
  goneAdvice:
    'If these pages have moved, let their old addresses lead to the new ones, and change the snippets that name them.',
  failingHeading: 'Did not answer',
  failingAdvice: 'Open one of them yourself. If it opens, the fault was temporary.',
  listMore: 'and {more} more',
  link: 'All of it: {address}',
  quiet: 'You get no further message about this.',
});
