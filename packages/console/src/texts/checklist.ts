import { catalogue } from '@pragmatica/core';

export const CHECKLIST = catalogue('console.checklist', {
  checklist: 'Checklist',
  whatHasDone:
    'Steps at the providers that only you can take. Without them, code may be on the page and still do nothing.',
  nothingHasDone: 'Nothing to do',
  recipes: 'Open the recipes',
  stepsComeFrom:
    'Steps come from the recipes of this site’s snippets, and none of them needs anything at a provider.',
  allDone: 'All done.',
  someDone: '{done} of {all} done.',
  forSnippets: 'for {snippets}',
});
