import { catalogue } from '@pragmatica/core';

export const VERIFICATION = catalogue('console.verification', {
  serviceBrokeOff: 'The service stopped before it had checked every page. Its log says why.',
  checkLivePages: 'Check the live pages',
  host: 'Host',
  hostAndWay: '{host}: {way}',
  checkAgain: 'Check again',
  everyKnownPage: 'Fetches every known page as a visitor would, and compares it with what was published.',
  stop: 'Stop',
  reallyThere: 'Is it really there?',
  savedNotLive:
    'Saved is not live, and live is not always delivered: a cache may serve an old copy of the page, or the theme may have the same code too.',
  nothingLive: 'Nothing is published yet',
  nothingLiveText:
    'Visitors get none of your snippets so far. Publish the draft, then check here that it really arrives.',
  toDraft: 'Open the draft',
  everythingStandsWhere: 'Everything is where it should be.',
  snippets: 'Snippets',
  pagesLooked: 'Pages checked',
  askingSitePages: 'Fetching the site’s pages …',
  progressStopped: '{count} of {total} pages of {address}, release {release}; stopped',
  progress: '{count} of {total} pages of {address}, release {release}',
  delivered: 'delivered on',
  noPlace: 'nowhere to go on',
  twice: 'twice on',
  wrongPlace: 'in the wrong place on',
  missing: 'missing on',
  pagesCouldNot: 'Pages that could not be checked',
});
