import { catalogue } from '@pragmatica/core';

/** What each kind of error is called. */
export const PROBLEM_TITLES = catalogue('server.problem-titles', {
  'invalid-input': 'Something in the request is not right',
  'malformed-body': 'The body could not be read',
  'malformed-request': 'The request cannot be understood',
  'too-much-to-read': 'This is too much to read',
  'too-large': 'The body is too large',
  'unsupported-media-type': 'The body has the wrong type',
  'not-signed-in': 'You are not signed in',
  'wrong-password': 'Name or password is wrong',
  'password-change-required': 'A new password is needed first',
  'cross-site': 'The request came from another site',
  forbidden: 'You may not do that',
  'code-required': 'A code is needed, too',
  'confirmation-required': 'Confirm that it is you',
  'not-found': 'Not found',
  conflict: 'That already exists',
  'nothing-to-publish': 'There is nothing to publish',
  'errors-found': 'The checks find errors',
  'not-contained': 'Some code would change the page around it',
  'changed-meanwhile': 'Somebody else has changed it',
  'if-match-required': 'If-Match is required',
  'too-many-attempts': 'Too many attempts',
  'method-not-allowed': 'This address does not know that method',
  unavailable: 'The database does not answer',
  internal: 'Something went wrong in Pragmatica',
});
