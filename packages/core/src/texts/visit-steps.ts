import { catalogue } from './catalogue.js';

/** What visitors do. */
export const STEP_TEXTS = catalogue('core.step', {
  open: 'opens {path}',
  wait: 'waits {seconds, plural, one {a second} other {# seconds}}',
  scroll: 'scrolls down to {percent} %',
  leave: 'moves the pointer out of the window',
  accept: 'accepts in the consent banner',
  refuse: 'refuses in the consent banner',
  return: 'comes back to {path} {days, plural, one {the next day} other {# days later}}',
  click: 'clicks {selector}',
  moveOn: 'moves on to {path}',
});
