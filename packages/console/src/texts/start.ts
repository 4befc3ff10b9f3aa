import { catalogue } from '@pragmatica/core';

export const START = catalogue('console.start', {
  title: 'A first look at {name}',
  intro: 'What is already there, and how best to deliver your code.',
  lookTitle: 'What we saw',
  reading: 'Reading its pages',
  progress: 'Reading its pages: {visited} of {found}',
  stop: 'Stop',
  stopped: 'Stopped before it was finished.',
  again: 'Look again',
  notYet: 'Its pages have not been read yet.',
  look: 'Read them',
  next: 'What to do now',
  nextGateway:
    'Enter the address of the server that holds the pages in the settings, then point {host} to the gateway.',
  nextMiddleware:
    'Add the package @pragmatica/middleware to your server. Its README shows how, in ten lines.',
  nextFolder: 'Write the code into the site’s files and upload them. Repeat this each time you publish:',
  insertCommand: 'pragmatica insert FOLDER --site {key} --out NEW-FOLDER',
  addFirst: 'Add the first snippet',
  addFirstText: 'Paste what a provider gave you. It stays in the draft until you publish.',
  add: 'Add a snippet',
  addAnother: 'Add another',
  publish: 'Publish',
  publishText: 'See in the draft what a page will get, then publish. Visitors get nothing before that.',
  toDraft: 'Open the draft',
  done: 'Done',
  compareText: 'What each way can and cannot do, side by side.',
  wholeSurvey: 'Survey all pages',
  settings: 'Hosts and servers',
});
