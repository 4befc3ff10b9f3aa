import { catalogue } from './catalogue.js';

/** What is wrong with a page that was well without a snippet. */
export const DAMAGE_TEXTS = catalogue('core.damage', {
  hung: 'The page stops responding: something in it runs without end.',
  elsewhere: 'Visitors are sent away to {address}.',
  textGone: 'Most of the page is gone: only {left} % of its text can still be read.',
  controlsGone:
    '{count, plural, one {“{first}” is} other {“{first}” and {rest, plural, one {another control} other {# other controls}} are}} gone from the page.',
  covered:
    '{count, plural, one {A control} other {# controls}} cannot be clicked, such as “{first}”: {by} covers {count, plural, one {it} other {them}}.',
  error: 'A script stops with an error: {message}',
  styles:
    '{count, plural, one {A style sheet} other {# style sheets}} of the page no longer {count, plural, one {loads} other {load}}.',
  keptOut:
    '{count, plural, one {A file of the page is blocked by a snippet’s content policy: {first}} other {# files of the page are blocked by a snippet’s content policy, such as {first}}}.',
  shifts: 'The page jumps while it loads.',
  blocked: 'The page takes {seconds} seconds longer to react.',
  slow: 'The page takes {seconds} seconds longer to show.',
  wide: 'The page has become {pixels} pixels wider than the window.',
});
