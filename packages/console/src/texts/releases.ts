import { catalogue } from '@pragmatica/core';

export const RELEASES = catalogue('console.releases', {
  releases: 'Releases',
  everythingWasEver:
    'Everything that was ever published. You can restore any release at once; the draft stays as it is.',
  toDraft: 'Open the draft',
  nothingWasPublished: 'Nothing published yet',
  firstReleaseAppears: 'The first release appears here when you publish the draft.',
  snippetsSnippets: '· {snippets} snippets on',
  publishedSpiteFindings: 'Published despite: {findings}. Reason: {reason}',
  whatChanged: 'What it changed',
  firstReleaseEverything: 'The first release, so everything was new.',
  nothingSameOne: 'Nothing: it is the same as the one before.',
  putBack: 'Restore…',
  putReleaseRelease: 'Restore release {release}?',
  allVisitorsOnce: 'This takes effect at once, for all visitors. What would change:',
  leave: 'Cancel',
  releaseReleaseLive: 'Release {release} is live again',
  draftWasNot: 'The draft is unchanged.',
  confirmPutBack: 'Restore it',
  putLive: 'Make live…',
  putLiveTitle: 'Make release {release} live?',
  asOnStaging: 'Exactly what was tested on staging. What changes for visitors:',
  confirmPutLive: 'Make it live',
  isLiveNow: 'Release {release} is live',
  earlier: 'Earlier releases',
});
