export const CHECKLIST = {
  checklist: 'Checklist',
  whatHasDone:
    'What has to be done at the providers, where only you can do it. Without it code may be on the page and still do nothing.',
  nothingHasDone: 'Nothing has to be done',
  recipes: 'To the recipes',
  stepsComeFrom:
    'Steps come from the recipes of this site’s snippets. None of them asks for anything at a provider.',
  allDone: 'All of it is done.',
  someDone: '{done} of {all} done.',
  forSnippets: 'for {snippets}',
} as const;
