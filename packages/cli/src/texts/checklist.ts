import { catalogue } from '@pragmatica/core';

export const CHECKLIST = catalogue('cli.checklist', {
  whatHasDone: 'steps at the providers that only you can take',
  onlyWhatNot: 'only what is not done',
  nothingHasDone: 'Nothing has to be done at a provider for the snippets of this site.',
  allDone: 'All done.',
  snippetName: '“{name}”',
  donePragmaticaTick: 'Done? pragmatica tick {id}',
  tickOffWhat: 'tick off a step done at a provider; your name and the time are stored',
  takeTickBack: 'untick it',
  stepsWrittenPragmatica:
    '\nSteps are written as "pragmatica checklist" shows them.\n\nExample:\n  pragmatica tick parlanook-chat/domain@www.example.com',
  itHas: 'It has: {steps}.',
  didYouMean: 'Did you mean "{near}"?',
  thereNoStep: 'There is no step "{typed}" on the checklist. {hint}',
  done: 'Done',
  notDoneAfter: 'Not done after all',
});
