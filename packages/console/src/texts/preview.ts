import { catalogue } from '@pragmatica/core';

export const PREVIEW = catalogue('console.preview', {
  open: 'Preview',
  title: 'See the draft on the real pages',
  description:
    'You get an address that shows the site as it would be with this draft. Nothing is published, and whoever opens it sees a striped edge on every page.',
  host: 'Pages of',
  path: 'Start page',
  pathHint: 'Its path, such as /booking. From there you can follow links.',
  hours: 'Valid for',
  hoursOf: '{hours, plural, one {# hour} other {# hours}}',
  daysOf: '{days, plural, one {# day} other {# days}}',
  make: 'Create the address',
  leave: 'Cancel',
  close: 'Close',
  ready: 'The preview is ready',
  readyText:
    'It always shows the current draft. Anybody with the address can open it, without an account, until',
  visit: 'Open the preview',
  copy: 'Copy the address',
  copied: 'Send it to anybody who should have a look.',
  onlyHere:
    'This address works on this computer only, because the service has no public address for previews yet. Whoever runs the service sets PRAGMATICA_PREVIEW_ADDRESS.',
});
