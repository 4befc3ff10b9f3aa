import { message, type Message } from './message.js';

/** What kind of problem it is; callers match on it, and it decides the status of the answer. */
export type ErrorCode =
  | 'invalid-input'
  | 'malformed-body'
  | 'malformed-request'
  | 'too-much-to-read'
  | 'too-large'
  | 'unsupported-media-type'
  | 'not-signed-in'
  | 'wrong-password'
  | 'password-change-required'
  | 'cross-site'
  | 'not-found'
  | 'conflict'
  | 'nothing-to-publish'
  | 'errors-found'
  | 'not-contained'
  | 'changed-meanwhile'
  | 'if-match-required'
  | 'too-many-attempts'
  | 'method-not-allowed'
  | 'unavailable'
  | 'internal';

/** Everything that can go wrong in a way that whoever asked is told, by code: id, and what is said. */
const BY_CODE = {
  'not-found': {
    'no-such-site': message('There is no site "{site}".', 'site'),
    'no-such-snippet': message('The site "{site}" has no snippet "{snippet}".', 'site', 'snippet'),
    'no-such-release': message('The site "{site}" has no release {number}.', 'site', 'number'),
    'no-such-field': message(
      'The site "{site}" has no field "{field}". Its fields: {known}.',
      'site',
      'field',
      'known',
    ),
    'no-such-host': message(
      'The site "{site}" has no host "{host}". Its hosts: {known}.',
      'site',
      'host',
      'known',
    ),
    'no-such-recipe': message('There is no recipe "{recipe}".', 'recipe'),
    'no-such-version': message(
      '“{name}” has no version {version}; the newest is {newest}.',
      'name',
      'version',
      'newest',
    ),
    'no-such-step': message(
      'There is no step "{step}" of "{recipe}" on the checklist of "{site}".',
      'step',
      'recipe',
      'site',
    ),
    'no-such-step-of-host': message(
      'There is no step "{step}" of "{recipe}" for the host {host} on the checklist of "{site}".',
      'step',
      'recipe',
      'host',
      'site',
    ),
    'no-such-token': message('You have no such token.'),
    'finding-gone': message(
      'There is no finding "{finding}" in the draft; perhaps it was fixed meanwhile.',
      'finding',
    ),
    'not-accepted': message('Nobody has accepted a finding "{finding}".', 'finding'),
    'no-host-to-visit': message(
      'The site has no {environment} host, so there is nothing to visit. Add one first.',
      'environment',
    ),
    'nothing-published': message(
      'Nothing was published to {environment} yet, so no snippet is expected there.',
      'environment',
    ),
    'console-not-built': message('The console has not been built. Run "npm run build".'),
    'nothing-here': message('There is nothing at this address.'),
    'nothing-at-path': message('There is nothing at {path}.', 'path'),
    'wrong-address': message('There is nothing at this address: {field}: {detail}', 'field', 'detail'),
    'address-encoding': message('The address is not properly encoded.'),
    'no-such-call': message(
      'The API has no {method} {path}. See /api/v1/openapi.json for what it has.',
      'method',
      'path',
    ),
  },
  'invalid-input': {
    'input-wrong': message(
      '{where}: {detail}{more, plural, =0 {} other { And # more.}}',
      'where',
      'detail',
      'more',
    ),
    'page-unknown': message('after (query): Pass `next` of the page before, as it came.'),
    'value-refused': message('The database refuses a value in this request. Nothing was changed.'),
    'field-cannot-be': message('“{label}” cannot be “{value}”. {problem}', 'label', 'value', 'problem'),
    'no-key-from-name': message('No key can be made from this name. Give one yourself.'),
    'recipe-not-sound': message('No recipe can be made of it yet. {problem}', 'problem'),
    'cannot-be-accepted': message(
      '“{title}” cannot be accepted: it would break the page for visitors. {advice}',
      'title',
      'advice',
    ),
    'day-over': message('{day} is over already. Choose today or a later day.', 'day'),
    'not-fixable': message(
      'The finding "{finding}" cannot be fixed automatically: its advice says what to do.',
      'finding',
    ),
    'parts-differ': message('The list must hold each part {where} once: {parts}.', 'where', 'parts'),
    'host-elsewhere': message(
      'The host {host} is in {environment}, not in {asked}.',
      'host',
      'environment',
      'asked',
    ),
    'no-such-purpose': message(
      'The site asks nobody about “{purpose}”. Its purposes: {known}.',
      'purpose',
      'known',
    ),
    'current-password-wrong': message('The current password is wrong.'),
    'same-password': message('The new password is the old one.'),
  },
  conflict: {
    'site-key-taken': message('There is a site "{key}" already. Give another key.', 'key'),
    'host-taken': message('The host {host} belongs to the site “{site}” already.', 'host', 'site'),
    'snippet-key-taken': message('The site has a snippet "{key}" already. Give another name or key.', 'key'),
    'snippet-stays': message('It has a snippet "{key}" already, which stays as it is.', 'key'),
    'same-site': message('This is the site that it comes from.'),
    'recipe-key-taken': message('There is a recipe "{key}" already. Give another name or key.', 'key'),
    'version-taken': message(
      '“{name}” has a version {version} already, which says something else. Versions never change: call this one {next}.',
      'name',
      'version',
      'next',
    ),
    'installed-already': message(
      'It has this already, as “{name}”, which stays as it is. For a second one give it a name of its own.',
      'name',
    ),
    'nothing-new': message(
      '“{name}” is as version {version} of its recipe describes it: there is nothing new.',
      'name',
      'version',
    ),
    'behind-recipe': message(
      '“{name}” follows version {version} of “{recipe}”, and there is version {newest}. Bring it up first.',
      'name',
      'version',
      'recipe',
      'newest',
    ),
    'follows-already': message('“{name}” follows the recipe “{recipe}” already.', 'name', 'recipe'),
    'follows-newest': message('“{name}” follows the newest version of its recipe already.', 'name'),
    'follows-none': message('“{name}” follows no recipe.', 'name'),
    'no-recipe-knows': message('No recipe knows the code of “{name}”. Name one, or make one of it.', 'name'),
    'cannot-follow': message('“{name}” stays as it is. {problem}', 'name', 'problem'),
    'edited-by-hand': message('Left as it is, because somebody changed it by hand: {replaced}', 'replaced'),
    'exists-already': message('Something with this key or host exists already. Choose another.'),
  },
  'changed-meanwhile': {
    'changed-since': message(
      '{what} is no longer what you saw. Nothing was changed now: look at it again, then repeat your change.',
      'what',
    ),
    'changed-since-by': message(
      '{what} is no longer what you saw. {by} changed it at {at}. Nothing was changed now: look at it again, then repeat your change.',
      'what',
      'by',
      'at',
    ),
    'changed-at-once': message(
      'Somebody else changed it at the same moment. Nothing of yours was changed: look again, then repeat.',
    ),
    'published-since': message(
      'Somebody else published since you looked. Nothing of yours was published, so as not to undo theirs.{count, plural, =0 {} other { Changed in the draft since: {changes}}} Look again, then publish.',
      'count',
      'changes',
    ),
  },
  'nothing-to-publish': {
    'served-already': message(
      'The draft is what {environments} already {count, plural, one {serves} other {serve}} (release {release}).',
      'environments',
      'count',
      'release',
    ),
  },
  'errors-found': {
    'errors-found': message(
      'Nothing was published: the checks find {count, plural, one {an error} other {# errors}}. {title}.{more, plural, =0 {} other { And # more.}} Fix or accept them, or publish with a reason.',
      'count',
      'title',
      'more',
    ),
  },
  'not-contained': {
    'not-contained': message(
      'Nothing was published. The code of {names} would change the page around it. {problem}',
      'names',
      'problem',
    ),
  },
  'not-signed-in': {
    'sign-in-first': message(
      'Sign in first: in the console, or with "pragmatica sign-in" on the command line.',
    ),
  },
  'wrong-password': {
    'wrong-password': message(
      'Name or password is wrong. The first start of the service printed a one-time password.',
    ),
  },
  'password-change-required': {
    'own-password-first': message('You signed in with a one-time password. Choose your own password first.'),
    'own-password-along': message(
      'This is a one-time password. Send newPassword as well, to choose your own.',
    ),
  },
  'too-many-attempts': {
    'wait-seconds': message(
      'Too many wrong passwords. Wait {seconds, plural, one {# second} other {# seconds}}, then try again.',
      'seconds',
    ),
    'wait-minutes': message(
      'Too many wrong passwords. Wait {minutes, plural, one {# minute} other {# minutes}}, then try again.',
      'minutes',
    ),
  },
  'cross-site': {
    'other-site': message('This request came from a page of another site and was refused.'),
  },
  'if-match-required': {
    'if-match-missing': message(
      'Send If-Match with the ETag that you last saw, so that nobody’s change is overwritten.',
    ),
  },
  'method-not-allowed': {
    'other-method': message('{method} does nothing here; {allowed} does.', 'method', 'allowed'),
  },
  'malformed-body': {
    'body-not-json': message('The body is not valid JSON.'),
  },
  'malformed-request': {
    'not-understood': message('The request cannot be understood: {why}.', 'why'),
    refused: message('The request was refused: {why}.', 'why'),
  },
  'too-large': {
    'body-too-large': message('The body is larger than 4 MB.'),
  },
  'too-much-to-read': {
    'too-much-to-read': message(
      'This could not be read within the time and memory that reading may take. Nothing was changed. Make the code shorter, or leave the longest snippet out.',
    ),
  },
  'unsupported-media-type': {
    'not-json-type': message('Send the body as application/json.'),
    'unknown-coding': message(
      'The body has a Content-Encoding that is not known here. Send it as it is, or with gzip, deflate or br.',
    ),
    'unknown-charset': message('The body has a charset that is not known here. Send it in UTF-8.'),
  },
  unavailable: {
    'database-away': message(
      'The database does not answer. Visitors get their pages as they were; nothing can be looked at or changed until it is back.',
    ),
  },
  internal: {
    internal: message('Something went wrong in Pragmatica itself. The log says what; nothing was changed.'),
  },
} as const satisfies Readonly<Record<ErrorCode, Readonly<Record<string, Message>>>>;

type UnionToIntersection<U> = (U extends unknown ? (each: U) => void : never) extends (all: infer I) => void
  ? I
  : never;
type Messages = UnionToIntersection<(typeof BY_CODE)[ErrorCode]>;

/** Names one thing that can go wrong. */
export type ProblemId = Extract<keyof Messages, string>;
export type ProblemMessage<Id extends ProblemId> = Messages[Id];

/** All messages by id, with the code of each. */
export const PROBLEM_MESSAGES: ReadonlyMap<string, { readonly code: ErrorCode; readonly message: Message }> =
  new Map(
    Object.entries(BY_CODE).flatMap(([code, messages]) =>
      Object.entries(messages as Readonly<Record<string, Message>>).map(([id, text]) => [
        id,
        { code: code as ErrorCode, message: text },
      ]),
    ),
  );
