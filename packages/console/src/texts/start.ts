export const START = {
  title: 'A first look at {name}',
  intro: 'What is there, and which way suits it.',
  lookTitle: 'What we saw',
  reading: 'Reading its pages',
  progress: 'Reading its pages: {visited} of {found}',
  stop: 'Stop',
  stopped: 'The look was stopped before it was over.',
  again: 'Look again',
  notYet: 'Nobody has looked at its pages yet.',
  look: 'Look at them',
  next: 'What to do now',
  nextGateway:
    'Write the address of the server that holds the pages into the settings, then let {host} point to the gateway.',
  nextMiddleware:
    'Add the package @pragmatica/middleware to your server. Its README shows how, in ten lines.',
  nextFolder:
    'Write the code into the files of the site, and upload them. After each publishing do it again:',
  insertCommand: 'pragmatica insert FOLDER --site {key} --out NEW-FOLDER',
  addFirst: 'Add the first snippet',
  wholeSurvey: 'Read all of its pages',
  settings: 'Settings',
} as const;
