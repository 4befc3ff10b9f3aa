import { catalogue } from '@pragmatica/core';

/** What is said at a field whose schema has no words of its own. */
export const ISSUE_TEXTS = catalogue('contract.issues', {
  required: 'This is required.',
  unknownNear: 'There is no "{key}" here. Did you mean "{near}"?',
  unknown: 'There is no "{key}" here. Known are: {known}.',
  wanted: {
    string: 'This must be a text.',
    number: 'This must be a number.',
    int: 'This must be a whole number.',
    boolean: 'This must be true or false.',
    array: 'This must be a list.',
    object: 'This must be an object.',
  },
  wantedOther: 'This must be of the type {type}.',
  textEmpty: 'Write something here.',
  textShort: 'Use at least {count, number} characters.',
  textLong: 'Use at most {count, number} characters.',
  numberSmall: 'Use {limit} or more.',
  numberLarge: 'Use {limit} or less.',
  listShort: 'List at least {count, plural, one {one} other {#}}.',
  listLong: 'List at most {count, plural, one {one} other {#}}.',
  oneOf: 'Use one of these: {values}.',
  exactly: 'This must be {value}.',
  address: 'Write a whole address like https://www.example.com/.',
  email: 'Write an address like name@example.com.',
  moment: 'Write the time like 2027-03-31T09:00:00Z.',
  form: 'This is not written in the form that belongs here.',
  noForm: 'This has none of the forms that are possible here.',
});
