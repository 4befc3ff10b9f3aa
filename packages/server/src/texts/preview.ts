import { catalogue } from '@pragmatica/core';

/** What somebody reads who opens a preview that shows no page. */
export const PREVIEW_TEXTS = catalogue('server.preview', {
  made: 'Made a preview of {what} on {host}, until {until}.',
  theDraft: 'the draft',
  theRelease: 'release {release}',
  overTitle: 'This preview is over',
  over: 'Previews end by themselves, and each browser has one at a time. Ask whoever sent you the address for a new one: in Pragmatica it is “Preview”, beside “Publish”, or “pragmatica preview”.',
  leftTitle: 'You have left the preview',
  left: 'This browser no longer gets the draft. Your visitors never did: they see what is published.',
  noAnswerTitle: '{host} does not answer',
  noAnswer:
    'A preview shows the site’s real pages, and the site’s server gave no answer just now. Open {address} yourself; when it works again, reload this page.',
  elsewhereTitle: 'Previews are not here',
  elsewhere: 'A preview is only shown at {address}. A proxy before it has to pass the host name on.',
  goneTitle: 'There is nothing to preview any more',
  gone: '{host} is no longer a host of this site, or what was previewed is gone. Ask for a new preview.',
  methodTitle: 'A preview only looks',
  method: 'What you sent would have changed something on the real site, so it was not passed on.',
});
