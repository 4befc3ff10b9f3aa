import { catalogue } from '@pragmatica/core';

export const FIELDS = catalogue('console.fields', {
  fieldsSaved: 'Fields saved',
  visitorsGetThem: 'Publish them to show visitors.',
  fields: 'Fields',
  valuesCodeSnippets: 'Values in the code of snippets, written {code} there, for every site that has them.',
  noFieldsYet: 'No fields yet',
  defineOneSite:
    'Define one in a site’s settings, and write it into the code of a snippet. When you copy the snippet to other sites, its fields go along.',
  field: 'Field',
  site: 'Site',
  value: 'Value',
  stagingWhereDiffers: 'on staging, if different',
  moreSites: 'More sites',
  nothingChanged: 'Nothing changed',
  saveValues: 'Save {count, plural, one {# value} other {# values}}',
  takeThemBack: 'Discard changes',
  sameOnStaging: 'the same',
  notSet: 'not set',
  stillExampleNot: 'Still the example: not set yet.',
});
