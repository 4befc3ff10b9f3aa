export const RELEASES = {
  releases: 'Releases',
  everythingWasEver:
    'Everything that was ever published, as it was. Any of it can be put back in a moment; the draft stays as it is.',
  nothingWasPublished: 'Nothing was published yet',
  firstReleaseAppears: 'The first release appears here when you publish the draft.',
  snippetsSnippets: '· {snippets} snippets on',
  publishedSpiteFindings: 'Published in spite of this: {findings}. Reason: {reason}',
  whatChanged: 'What it changed',
  firstReleaseEverything: 'The first release: everything in it was new.',
  nothingSameOne: 'Nothing: it is the same as the one before.',
  putBack: 'Put back…',
  putReleaseRelease: 'Put release {release} back?',
  allVisitorsOnce: 'For all visitors, at once. What would change for them:',
  leave: 'Leave it',
  releaseReleaseLive: 'Release {release} is live again',
  draftWasNot: 'The draft was not touched.',
  putIt: 'Put it back',
} as const;
