import type { FieldError } from '@pragmatica/contract';
import { formatMessage, message, type ParamsOf } from './message.js';

/** What is said at one field of a request. */
export const FIELD_MESSAGES = {
  'key-taken': message('This key is taken.'),
  'key-needed': message('Give a key of lower-case letters, digits and dashes.'),
  'host-of-another-site': message('This host belongs to another site.'),
  'host-tells-environment': message('Leave it out: the host tells it.'),
  'name-a-purpose': message('Name one of the site’s purposes.'),
  'not-your-password': message('This is not your current password.'),
  'another-password': message('Choose another password than the current one.'),
  'part-not-contained': message('“{name}”: {problem}', 'name', 'problem'),
  'finding-there': message('{title}. {advice} ({finding})', 'title', 'advice', 'finding'),
} as const;

type FieldMessages = typeof FIELD_MESSAGES;

/** @param pointer - into the request's body (RFC 6901) */
export function fieldError<Id extends keyof FieldMessages>(
  pointer: string,
  id: Id,
  params: ParamsOf<FieldMessages[Id]>,
): FieldError {
  return { pointer, detail: formatMessage(FIELD_MESSAGES[id], params) };
}
