import { catalogue } from '@pragmatica/core';

/** The words of `weigh`. */
export const WEIGH = catalogue('cli.weigh', {
  description:
    'what each snippet costs: pages are opened with every snippet, without any, and without each in turn',
  device: 'on this kind of device',
  draft: 'weigh the draft before it is published',
  all: 'every known page, instead of three at most',
  last: 'show what was measured last, without measuring again',
  which: 'which of the site’s environments',
  host: 'one of the site’s hosts; the first of the environment when left out',
  examples:
    '\nExits with 1 when snippets add more to a page than the budget allows. Set the budget with "pragmatica watch set --budget 300".\n\nExamples:\n  pragmatica weigh\n  pragmatica weigh /booking --device desktop\n  pragmatica weigh --draft\n  pragmatica weigh --last',
  head: '{host}, {what}, measured {when} (round {round}).',
  release: 'release {number}',
  theDraft: 'the draft, not published',
  budget: 'Budget: {kb} kB per page for all snippets together.',
  noBudget: 'No budget is set. Set one with "pragmatica watch set --budget KB".',
  page: '{path} ({device})',
  columns: ['', 'KB', 'REQUESTS', 'BLOCKS MS', 'JUMPS', 'READY MS'],
  bare: 'the page by itself',
  full: 'with every snippet',
  nothing: 'No snippet runs on this page.',
  whole: '{count} snippets run here, too many to leave out each in turn: the page is weighed as a whole.',
  shared: 'shared by several',
  failed: '{path} ({device}): could not be weighed, because a visit broke off. Weigh again.',
});
