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
  pages: {
    'first-steps': 'From the code a provider gave you to a visitor seeing it. Begin here.',
    tour: 'Every part of Pragmatica once, on the demo site.',
    'how-it-works': 'The parts it is made of, and what each does.',
    'without-the-gateway':
      'One line pasted once, pasted blocks, includes, your own server, a folder of files.',
    reach: 'Choose pages, devices, opening hours and consent for a snippet.',
    recipes: 'Describe an install once, then use it on any number of sites.',
    survey: 'Read every page of a site and see which scripts are already in it.',
    visits: 'Let a browser open your pages, and find out why something doesn’t show.',
    watching: 'Regular visits, and a message when something stops working.',
    'content-policy': 'Allow your snippets in a site’s content policy (CSP), or write a good one.',
    'in-and-out': 'Import, export, back up and move a site, or keep it as code.',
    checks: 'Every finding: what it means, why it matters and what to do.',
    errors: 'Every error of the service: what it means and what to do.',
    commands: 'All commands of the command line, with their options.',
    settings: 'All settings of the service and the gateway.',
    gateway: 'How pages pass through it, and what happens when something fails.',
    insertion: 'Where exactly code goes in a page.',
    security: 'What is protected, and how.',
    architecture: 'How it is built, for whoever works on it.',
    figures: 'What was measured: speed, sizes and limits.',
  },
  groups: {
    start: 'First steps',
    work: 'How to',
    look: 'Reference',
    depth: 'Background',
  },
});
