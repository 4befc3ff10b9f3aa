import { catalogue } from '@pragmatica/core';
import type { FieldError } from '@pragmatica/contract';
import { formatMessage, type NamesIn, type Params } from '@pragmatica/core';
import { PROBLEM_MESSAGES } from './problems.js';

/** What is said at one field of a request. */
export const FIELD_MESSAGES = catalogue('server.field-messages', {
  'key-taken': 'This key is taken.',
  'key-needed': 'Enter a key of lower-case letters, digits and hyphens.',
  'host-of-another-site': 'This host belongs to another site.',
  'host-tells-environment': 'Leave it out: the host already says so.',
  'name-a-purpose': 'Name one of the site’s purposes.',
  'not-yours-to-change': 'Only an owner of the site may change this.',
  'choose-another-login': 'This user name is taken.',
  'not-the-code': 'This is not the code, or it was used already. Wait for the next one.',
  'not-your-password': 'This is not your current password.',
  'nobody-mails': 'This installation has no mail server to send it.',
  'another-password': 'Choose a password other than the current one.',
  'part-not-contained': '“{name}”: {problem}',
  'finding-there': '{title}. {advice} ({finding})',
});

type FieldMessages = typeof FIELD_MESSAGES;

/** @param pointer - into the request's body (RFC 6901) */
export function fieldError<Id extends keyof FieldMessages>(
  pointer: string,
  id: Id,
  params: Params<NamesIn<FieldMessages[Id]>>,
): FieldError {
  return { pointer, detail: formatMessage(FIELD_MESSAGES[id], params), message: { id, params } };
}

/** The same as a reader of this locale writes it; what has no message of ours stays as it is. */
export function wordFieldError(error: FieldError, locale: string | undefined): FieldError {
  const { message } = error;
  if (!message) return error;
  const pattern = messageById(message.id);
  return pattern === undefined ? error : { ...error, detail: formatMessage(pattern, message.params, locale) };
}

function messageById(id: string): string | undefined {
  return Object.hasOwn(FIELD_MESSAGES, id)
    ? FIELD_MESSAGES[id as keyof FieldMessages]
    : PROBLEM_MESSAGES.get(id)?.pattern;
}
