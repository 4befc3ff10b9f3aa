import { catalogue } from '@pragmatica/core';

export const PLACE = catalogue('console.place', {
  element: 'Element',
  elementHint: 'Its id, or a selector such as .sidebar or main > p:nth-of-type(2).',
  example: 'booking-widget',
  side: 'Where exactly',
  sides: {
    before: 'Before it',
    inside: 'In it, at the start',
    'inside-end': 'In it, at the end',
    after: 'After it',
  },
  pick: 'Pick it on the page',
  check: 'Check the pages',
  onAll: '{count, plural, one {The page has} other {All # pages have}} this place.',
  onSome:
    '{with} of {count, plural, one {# page} other {# pages}} have this place. Not: {missing}{more, plural, =0 {} other { and # more}}.',
  noPages:
    'No page could be checked: no page is known that this snippet runs on, or the site does not answer.',
  title: 'Pick a place on the page',
  intro:
    'Click the part of the page that the code belongs to. The picture shows the page without your snippets, as a new visitor gets it.',
  page: 'Page',
  device: 'Size',
  devices: { desktop: 'Desktop', tablet: 'Tablet', phone: 'Phone' },
  show: 'Show',
  loading: 'A browser is opening {path}. This takes a few seconds.',
  picture: 'The page {path}',
  larger: 'Larger part',
  smaller: 'Smaller part',
  nothingYet: 'Nothing picked yet.',
  naming: 'Looking for a name that holds on your pages…',
  names: 'What it is called',
  holdsOn: '{with} of {count, plural, one {# page} other {# pages}}',
  missing:
    'Not on {pages}{more, plural, =0 {} other { and # more}}. Visitors of those pages do not get this code.',
  cannot: 'The code cannot go there',
  cannotAdvice: 'Pick another part of the page, or another side of it.',
  result: 'See the result',
  back: 'Back to the picture',
  resultOf: 'The page with your code {place}',
  resultShows: 'What your code shows is outlined.',
  resultNothing:
    'Your code shows nothing at this place by itself. It may load something that appears later, or elsewhere on the page.',
  use: 'Use this place',
  leave: 'Cancel',
});
