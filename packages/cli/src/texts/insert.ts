import { catalogue } from '@pragmatica/core';

export const INSERT = catalogue('cli.insert', {
  putSnippetSet:
    'put snippets into a folder of HTML files: what the service serves, or with --set a file, and then without the service',
  whereNewFiles:
    'where the new files go: new, empty, or written here before; then only what has changed is written',
  snippetSetPragmatica: 'the snippet set, as "pragmatica export" writes it',
  whoseSnippets: 'whose snippets',
  diff: 'only show what would change, line by line',
  tooDifferent: '  Too different to show line by line.',
  pagesAskedWithout: 'pages are asked for without ".html": about.html is /about',
  dryRun: 'write nothing, and say what would change',
  watch: 'keep running, and write whatever changes in the folder or is published',
  watching: 'Watching. Ctrl-C ends it.',
  wroteAgain: '{written, plural, one {# file} other {# files}} written, {removed, number} removed.',
  wouldWrite: '{written, plural, one {# file} other {# files}} would be written, {removed, number} removed.',
  partsPutIn: '{count, plural, one {one part} other {# parts}} in it',
  moreFiles: '  and {more, number} more',
  indexHtmlPage:
    '\nindex.html is the page of its folder: its path ends in "/". Packed siblings of pages (.gz, .br) are packed anew.\n\nExamples:\n  pragmatica insert public --out public-with-snippets\n  pragmatica insert public --out public-with-snippets --dry-run\n  pragmatica insert public --out public-with-snippets --watch\n  pragmatica insert public --out public-with-snippets --set set.json\n\nIn a build, after the pages are made:\n  "postbuild": "pragmatica insert dist --out dist-with-snippets"',
  wrotePageOut:
    'Wrote {count, plural, one {# page} other {# pages}} to {out}{kept, plural, =0 {} other {, # were there already}}; {copied, plural, one {# other file} other {# other files}} and {links, plural, one {# link} other {# links}} went along unchanged.\n',
  noSnippetSet: 'No snippet of the set is on for any of these pages.',
  putInto: 'PUT INTO',
  leftOut: 'LEFT OUT OF',
  wasLeftOut: 'was left out',
  standsElsewhereThan: 'is in an unusual place',
  thereNoFolder: 'There is no folder "{from}".',
  newFolderMust: 'The new folder must not be inside the old one, or new pages would be read again.',
  notEmptyName: '"{to}" is not empty. Name a new folder, so that nothing is overwritten.',
});
