import { catalogue } from './catalogue.js';

/** The answer to "why doesn't it show?", step by step. */
export const WHY_TEXTS = catalogue('core.why', {
  saved: 'It is saved here.',
  noCode: 'It has no code yet.',
  noCodeAction: 'Paste the code that the provider gives you.',
  onlyReleased: 'It was removed from the draft, and the release that visitors get still has it.',
  on: 'It is switched on.',
  offAction: 'Switch it on, and publish.',
  archivedAction: 'Restore it from the archive, and publish.',
  published: 'It is in release {release}, which {environment} serves.',
  nothingPublished: 'Nothing has been published to {environment} yet, so visitors get none of it.',
  publishAction: 'Publish the draft.',
  notInRelease: 'Release {release}, which {environment} serves, does not have it: it was added after that.',
  releasedOff: 'It is on in the draft. In release {release}, which {environment} serves, it is still off.',
  releasedOlder: 'The draft has changes to it that release {release} does not have yet.',
  inReach: 'Its reach includes this page load.',
  reachAction: 'Change its reach, or check a page load that it includes.',
  opensAction: 'Wait until then, or change its hours.',
  overAction: 'Change its last day, and publish.',
  consentAction: 'Accept that purpose in the consent banner, then reload.',
  deviceAction: 'Check on one of those devices, or change its reach.',
  pageAction: 'Add this page to its reach, and publish.',
  waitsFor: 'It comes {wait}.',
  rarely:
    'It comes {often} for one visitor. If you have seen it already, it stays away: use a private window.',
  stepUnknown: 'Not checked yet: only a visit can tell.',
  notReached: 'Not reached.',
  visitFailed: 'The page could not be opened: {problem}',
  visitFailedAction: 'Open the address yourself. If that works, check the host’s settings here.',
  wellShown: '“{name}” works for a new visitor on {path}. {what}',
  wellRan: '“{name}” works on {path}: its code is there, loaded and ran.',
  waitingStill: '“{name}” is in the page, but still waits. {because}',
  wellHint:
    'If you do not see it yourself: reload without the cache, use a private window, and switch ad blockers off.',
  brief: '“{name}” does not show on {path}: {message}',
  mayOpenLater: 'From {moment} on, the answer is different.',
});

/** Steps of the ladder, as headings. */
export const STEP_TITLES = catalogue('core.step-titles', {
  saved: 'Saved',
  on: 'Switched on',
  published: 'Published',
  'in-reach': 'In its reach',
  delivered: 'Delivered',
  loaded: 'Loaded',
  ran: 'Ran',
  shown: 'Shown',
  reported: 'Reported',
});

/** Who can do something about it. */
export const WHO_WORDS = catalogue('core.who-words', {
  you: 'you, here',
  site: 'whoever edits the site’s own pages',
  provider: 'the provider, or you in your account there',
  visitor: 'whoever looks at the page',
  unknown: 'not known',
});
