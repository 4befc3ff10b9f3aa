import { catalogue } from '@pragmatica/core';

export const HELP = catalogue('console.help', {
  help: 'Help',
  lead: 'How things work, what each finding and error means, and every command. Type what you are looking for.',
  search: 'Search the help',
  results:
    '{count, plural, =0 {Nothing found for “{words}”. Try fewer or other words.} one {One place} other {# places}}',
  loading: 'Loading the help',
  allPages: 'All help pages',
  onThisPage: 'On this page',
  notFound: 'There is no such help page.',
  moreAbout: 'More about this: {subject}',
  whatItMeans: 'What this means',
  groups: {
    start: 'Getting to know it',
    work: 'Doing things',
    look: 'Looking things up',
    depth: 'In depth',
  },
});
