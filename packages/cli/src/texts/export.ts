import { catalogue } from '@pragmatica/core';

export const EXPORT = catalogue('cli.export', {
  description: 'write a snippet set as a file, or as the files that the one line loads',
  ofSet: 'live, staging, draft or the number of a release',
  line: 'the one line that is pasted into the head of all pages',
  thenPublish: 'From then on it is changed by publishing; nothing is pasted again.',
  out: 'write it there instead of to standard output',
  oneLine: 'write the files of the one line into this folder, for any web server',
  fromSet: 'use a file that "pragmatica export" wrote, without asking the service',
  address: 'where visitors will find that folder, e.g. https://files.example.com/one',
  environment: 'whose snippets',
  examples:
    '\nThe one line is pasted once into the head of all pages. From then on you upload the files again after you publish; nothing is pasted again.\n\nExamples:\n  pragmatica export --of live --out set.json\n  pragmatica export --one-line public/one --address https://files.example.com/one',
  wrote: 'Wrote {count, plural, one {# snippet} other {# snippets}} to {out}.',
  notDraftLive: '"{of}" is not draft, live, staging or the number of a release.',
  nothingWasPublished: 'Nothing was published to {environment} yet. Use --of draft.',
  wroteLine: 'Wrote {pointer} and {release} to {folder}.',
  upload:
    'Upload both. {release} never changes, so let browsers cache it. {pointer} must be fetched anew each time.',
  paste: 'Paste this once, as high as possible into the head of all pages:',
  pasteAsync: 'Or this, which never holds the page up but runs everything later:',
  hoursUntil: 'It contains opening hours up to {date}. Export again before then.',
  addressHere: 'https://ADDRESS',
  setOrService: 'A file has one set in it: leave out --of.',
});
