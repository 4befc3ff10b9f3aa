import { catalogue } from './catalogue.js';

/** What stands on the edge of a page in a preview. */
export const PREVIEW_TEXTS = catalogue('core.preview', {
  label: 'Preview',
  draft: 'draft, not published · {site}',
  release: 'release {release}, not live here · {site}',
  until: 'The preview ends {moment}.',
  sameAsLive: 'This page gets what {host} gives visitors now: the draft changes nothing here.',
  changes: 'What differs here from {host} now:',
  nothingPublished: 'Nothing is published on {host} yet: without the draft this page gets no snippets.',
  elsewhere:
    'This is not the address that your visitors use, so providers that only work on a registered domain may not show up.',
  leave: 'Leave the preview',
  hide: 'Hide this label',
});
