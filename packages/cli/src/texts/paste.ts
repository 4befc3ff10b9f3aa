import { catalogue } from '@pragmatica/core';

export const PASTE = catalogue('cli.paste', {
  description: 'blocks of code to paste into the boxes of a site builder',
  environment: 'of which environment',
  draft: 'of the draft: what would have to be pasted once it is published',
  text: 'print exactly what goes into a box, to copy',
  page: 'of which page, for a box of single pages',
  done: 'mark a block as pasted',
  empty: 'mark the box as empty of our code',
  box: 'describe a box of your site builder, or change its description',
  boxName: 'what the box is called there',
  maxLength: 'its character limit',
  stripsScripts: 'it strips script tags',
  stripsComments: 'it strips comments',
  remove: 'there is no such box',
  check: 'check on the live pages what the boxes really contain',
  sheet: 'write what somebody else has to paste as a Markdown file',
  out: 'write it there instead of to standard output',
  boxKinds:
    '\nKinds of boxes: site-head and site-foot are for all pages, page-head and page-content for one page.\n\nExample:\n  pragmatica paste box site-head --name "Head code"\n  pragmatica paste text site-head\n  pragmatica paste done site-head',
  noBoxes:
    'No boxes are described yet. Say which ones your site builder has: "pragmatica paste box site-head --name …". For the kinds: "pragmatica paste box --help".',
  nothing: 'Nothing to paste.',
  title: 'Release {release, number}, for the boxes of the site builder:\n',
  titleDraft: 'The draft, for the boxes of the site builder:\n',
  allPages: 'all pages',
  states: {
    open: 'to paste',
    outdated: 'out of date: has release {release, number}',
    done: 'done',
  },
  tooLong:
    'The block for “{name}” is {over, plural, one {one character} other {# characters}} too long. Remove parts from the set, or use the one line: "pragmatica export --one-line".',
  hours: 'Opening hours in “{name}” are right up to {date}. Paste it again before then.',
  obsolete:
    'Remove our block from “{name}” ({page}): nothing goes there any more. Then: "pragmatica paste done {kind}{option} --empty"',
  next: 'Next: "pragmatica paste text {kind}{option}" prints what goes into “{name}”.',
  noSuchBlock: 'Nothing goes into {kind}{page}. "pragmatica paste" lists what does.',
  nowDone:
    '“{name}” is done. {open, plural, =0 {Everything is pasted.} one {One is left.} other {# are left.}}',
  nowEmpty: 'Noted: our code is gone from the box.',
  boxKept:
    'Saved. {open, plural, =0 {Nothing to paste.} one {One block} other {# blocks}}{open, plural, =0 {} other {: "pragmatica paste" lists what goes where.}}',
  nameMissing: 'Say what the box is called in your site builder: --name.',
  ofPage: ' of {page}',
  checked: '{right, number} right, {wrong, number} wrong (release {release, number})',
});
