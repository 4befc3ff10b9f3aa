import { catalogue } from '@pragmatica/core';

export const PREVIEW = catalogue('cli.preview', {
  description:
    'create an address where people can see the draft on the site’s real pages, without publishing it',
  path: 'the page that it begins with',
  hours: 'for so many hours the address works, 336 at most',
  host: 'the host whose pages are shown; the environment’s first when left out',
  release: 'a release instead of the draft',
  examples:
    '\nExamples:\n  pragmatica preview\n  pragmatica preview /booking --hours 72\n  pragmatica preview --environment staging --release 12',
  made: 'Whoever opens this sees {what} on {host}, until {until}, with a striped edge around every page:',
  draft: 'the draft as it is then',
  ofRelease: 'release {release}',
  onlyHere:
    'Only this computer finds it: the service has no public address for previews yet (PRAGMATICA_PREVIEW_ADDRESS).',
});
