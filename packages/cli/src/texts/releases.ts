import { catalogue } from '@pragmatica/core';

export const RELEASES = catalogue('cli.releases', {
  whatDiffersBetween: 'what differs between live and the draft, in words',
  liveStagingDraft: 'live, staging, draft or the number of a release',
  same: 'the same',
  noDifferenceBetween: 'No difference between {from} and {to}.',
  fromFrom: 'From {from} to {to}:\n',
  visitorsDoNot: '\n· nothing changes for visitors',
  publishDraftNew: 'publish the draft as a new release, all or nothing',
  whatChangesThose: 'what it changes, for anybody who looks it up later',
  whereTo: 'where to',
  spiteErrorsChecks: 'publish despite errors that the checks find; the reason is stored with the release',
  publishedReleaseNumber:
    'Published release {number} to {environments}: {snippets, plural, one {# snippet} other {# snippets}} on.',
  changedDraftMeanwhile: 'Changed in the draft in the meantime, and not in this release:',
  publishTooRun: 'To publish that too, run the command again.',
  visitorsGetFrom: 'It is live now. Make sure with "pragmatica verify".',
  listAllReleases: 'list all releases',
  nothingWasPublished: 'Nothing published yet. Publish with: pragmatica publish -m MESSAGE',
  forcedReason: '(forced: {reason})',
  served: 'SERVED IN',
  putReleaseBack: 'put a release back for visitors; the draft stays as it is',
  typedNotNumber: '"{typed}" is not the number of a release. See "pragmatica releases".',
  servesAgainAfter:
    '{environment} serves release {release} again (before: release {before}). The draft is unchanged.',
  servesAgain: '{environment} serves release {release} again. The draft is unchanged.',
});
