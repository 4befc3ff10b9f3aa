export const HANDOVER = {
  title: 'Code to paste into {site}',
  how: 'For each box below: copy its text, open that box in your site builder, put the text over what stands there of ours from before, save, and publish the site. Whatever else is in the box stays. Then tick it off here.',
  print: 'Print',
  loading: 'Loading what is to be pasted',
  allDone: 'Everything is pasted. Thank you!',
  someOpen: '{open, plural, one {One box still needs its text.} other {# boxes still need their texts.}}',
  overTitle: 'This link works no longer',
  overText: 'It is over, or was ended. Ask whoever gave it to you for a new one.',
  until: 'This link works until',
} as const;
