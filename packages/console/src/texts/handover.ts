import { catalogue } from '@pragmatica/core';

export const HANDOVER = catalogue('console.handover', {
  title: 'Code to paste into {site}',
  how: 'For each box below: copy its text, open that box in your site builder, paste the text over our earlier block if there is one, save, and publish the site. Leave everything else in the box. Then tick it off here.',
  print: 'Print',
  loading: 'Loading what is to be pasted',
  allDone: 'Everything is pasted. Thank you!',
  someOpen: '{open, plural, one {One box still needs its text.} other {# boxes still need their texts.}}',
  overTitle: 'This link no longer works',
  overText: 'It has expired or was revoked. Ask whoever sent it to you for a new one.',
  until: 'This link works until',
});
