export const CHECKLIST = {
  whatHasDone: 'what has to be done at the providers, where nobody but you can do it',
  onlyWhatNot: 'only what is not done',
  nothingHasDone: 'Nothing has to be done at a provider for the snippets of this site.',
  allDone: 'All done.',
  snippetName: '“{name}”',
  donePragmaticaTick: 'Done? pragmatica tick {id}',
  tickOffWhat: 'tick off what was done at a provider; your name and the time are kept',
  takeTickBack: 'take the tick back',
  stepsWrittenPragmatica:
    '\nSteps are written as "pragmatica checklist" shows them.\n\nExample:\n  pragmatica tick parlanook-chat/domain@www.example.com',
  itHas: 'It has: {steps}.',
  didYouMean: 'Did you mean "{near}"?',
  thereNoStep: 'There is no step "{typed}" on the checklist. {hint}',
  done: 'Done',
  notDoneAfter: 'Not done after all',
} as const;
