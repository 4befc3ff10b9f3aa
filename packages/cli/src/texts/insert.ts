export const INSERT = {
  putSnippetSet: 'put a snippet set into a folder of HTML files; needs no service',
  whereNewFiles: 'where the new files go; must be empty or new',
  snippetSetPragmatica: 'the snippet set, as "pragmatica export" writes it',
  whoseSnippets: 'whose snippets',
  pagesAskedWithout: 'pages are asked for without ".html": about.html is /about',
  printResultJson: 'print the result as JSON',
  indexHtmlPage:
    '\nindex.html is the page of its folder: its path ends in "/".\n\nExample:\n  pragmatica export --of live --out set.json\n  pragmatica insert public --out public-with-snippets --set set.json',
  wrotePageOut:
    'Wrote {count, plural, one {# page} other {# pages}} to {out}; {copied, plural, one {# other file} other {# other files}} and {links, plural, one {# link} other {# links}} went along unchanged.\n',
  noSnippetSet: 'No snippet of the set is on for any of these pages.',
  putInto: 'PUT INTO',
  leftOut: 'LEFT OUT OF',
  wasLeftOut: 'was left out',
  standsElsewhereThan: 'stands elsewhere than usual',
  thereNoFolder: 'There is no folder "{from}".',
  newFolderMust:
    'The new folder must not lie inside the old one: the pages would be read again as they are written.',
  notEmptyName: '"{to}" is not empty. Name a new folder, so that nothing is overwritten.',
} as const;
