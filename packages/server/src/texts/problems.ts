import { catalogue, type NamesIn, type Params } from '@pragmatica/core';

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
  | 'code-required'
  | 'confirmation-required'
  | 'password-change-required'
  | 'cross-site'
  | 'forbidden'
  | 'not-found'
  | 'conflict'
  | 'not-possible'
  | 'approval-required'
  | 'limit-reached'
  | 'too-many-calls'
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
const BY_CODE = catalogue('server.problems', {
  'not-found': {
    'no-such-site': 'There is no site "{site}".',
    'no-such-snippet': 'The site "{site}" has no snippet "{snippet}".',
    'no-such-release': 'The site "{site}" has no release {number}.',
    'no-such-field': 'The site "{site}" has no field "{field}". Its fields: {known}.',
    'no-such-host': 'The site "{site}" has no host "{host}". Its hosts: {known}.',
    'no-such-recipe': 'There is no recipe "{recipe}".',
    'no-such-version': '“{name}” has no version {version}; the newest is {newest}.',
    'no-such-step': 'There is no step "{step}" of "{recipe}" on the checklist of "{site}".',
    'no-such-step-of-host':
      'There is no step "{step}" of "{recipe}" for the host {host} on the checklist of "{site}".',
    'no-such-activity':
      'There is no change {entry} in the activity of "{site}". It may be too old to be kept.',
    'no-such-approval': 'The site "{site}" has no request {approval} for approval.',
    'approval-link-over': 'This link no longer works. Ask whoever sent it to you for a new one.',
    'no-such-comment': 'The site "{site}" has no comment {comment}. It may have been removed.',
    'no-such-backup': 'There is no backup {backup}. It may have been removed.',
    'no-such-member': 'There is no member "{login}".',
    'no-such-site-member': 'Nobody called "{login}" is a member of this site. Invite them.',
    'no-such-invitation': 'There is no such invitation. It may have been accepted, or have expired.',
    'invitation-over': 'This link no longer works. Ask whoever sent it to you for a new one.',
    'no-such-identity': 'You are not connected with it.',
    'no-such-passkey': 'You have no such passkey.',
    'no-such-token': 'You have no such token.',
    'no-such-session': 'You have no such session. It may have ended by itself.',
    'finding-gone': 'There is no finding "{finding}" in the draft. It may have been fixed in the meantime.',
    'not-accepted': 'Nobody has accepted a finding "{finding}".',
    'no-host-to-visit': 'The site has no {environment} host, so there is nothing to visit. Add one first.',
    'nothing-published': 'Nothing was published to {environment} yet, so no snippet is expected there.',
    'no-survey-yet':
      'No survey of "{site}" has finished yet. Start one: "pragmatica survey", or in the console under “The real site”.',
    'no-such-survey': 'The site "{site}" has no survey {number}.',
    'no-visits-yet':
      'No browser has visited "{site}" yet. Start with "pragmatica verify --browser", or in the console under “Check live pages”.',
    'no-weighing-yet':
      'No page of "{site}" has been weighed yet. Start with "pragmatica weigh", or in the console under “Check live pages”.',
    'not-a-weighing': 'Round {number} did not weigh pages.',
    'no-such-round': 'The site "{site}" has no round {number} of visits.',
    'no-such-visit': 'Round {round} has no visit {number}.',
    'visit-not-made': 'Visit {number} of round {round} has not been made, so there is nothing to show.',
    'no-such-screenshot': 'Visit {visit} of round {round} has no screenshot {number}.',
    'page-not-surveyed': 'Survey {number} knows no page {path}.',
    'no-such-sighting': 'Survey {number} has no sighting {id}.',
    'no-access-kept': 'No access to {host} is stored.',
    'side-not-surveyed':
      'No survey of {host} {side, select, origin {at the site’s own server} other {where visitors go}} has finished yet, so there is nothing to compare. Start one of both sides.',
    'no-such-handover': 'There is no link {id}. It may have expired.',
    'handover-over': 'This link no longer works. Ask whoever sent it to you for a new one.',
    'no-such-webhook': 'The site "{site}" has no webhook {id}.',
    'no-such-notice': 'The site "{site}" has sent no notice {id}.',
    'no-schedule': 'No surveys of {host} are planned.',
    'no-sighting': 'There is no sighting {id}.',
    'console-not-built': 'The console has not been built. Run "npm run build".',
    'nothing-here': 'There is nothing at this address.',
    'nothing-at-path': 'There is nothing at {path}.',
    'wrong-address': 'There is nothing at this address: {field}: {detail}',
    'address-encoding': 'The address is not properly encoded.',
    'no-such-call': 'The API has no {method} {path}. See /api/v1/openapi.json for what it has.',
  },
  'invalid-input': {
    'release-damaged':
      'Release {number} in the file does not match its digest: the file was changed or damaged. Nothing was imported.',
    'no-such-site-named': 'There is no site "{site}".',
    'input-wrong': '{where}: {detail}{more, plural, =0 {} other { And # more.}}',
    'page-unknown': 'after (query): Pass `next` of the page before, as it came.',
    'value-refused': 'The database rejected a value in this request. Nothing was changed.',
    'field-cannot-be': '“{label}” cannot be “{value}”. {problem}',
    'not-recipient': '{why}',
    'backup-unreadable': '{why} Nothing was restored.',
    'backup-newer':
      'The backup was made by version {version}, and this is version {here}. Update Pragmatica, then restore it.',
    'backup-rows-unfit':
      'The rows of the table {table} do not fit: the backup was changed after it was made. Nothing was restored.',
    'no-site-in-backup': 'The backup has no site "{site}". Its sites: {known}.',
    'upload-broken-off': 'The backup did not come to its end. Nothing was restored.',
    'not-an-address': '“{typed}” is not a site’s address. Write it as in a browser, like www.example.com.',
    'nobody-answers':
      'Nothing answers at {address}. {reason} Check the spelling. Does the site open in your browser?',
    'site-in-trouble':
      '{address} answers, but not with a page: its status is {status}. Does the site open in your browser?',
    'address-private': '{reason}',
    'no-key-from-name': 'No key can be made from this name. Enter one yourself.',
    'schedule-not-cron':
      '“{cron}” is not a schedule. Write five fields: minute, hour, day, month, weekday, such as 0 6 * * 1 for every Monday at 06:00.',
    'mail-not-set-up':
      'This installation has no mail server, so nobody would get a mail. Whoever runs it sets PRAGMATICA_SMTP_URL; until then use a webhook.',
    'schedule-never': '“{cron}” never comes round: there is no such day.',
    'schedule-too-often': '“{cron}” is more than once an hour. Once a day is plenty.',
    'recipe-not-sound': 'A recipe cannot be made from it yet. {problem}',
    'cannot-be-accepted': '“{title}” cannot be accepted: it would break the page for visitors. {advice}',
    'no-identity-provider':
      'No identity provider is set here. Whoever runs this installation sets PRAGMATICA_OIDC_ISSUER.',
    'no-such-language': 'The service does not speak {language}. It speaks {known}.',
    'day-over': '{day} is already past. Choose today or a later day.',
    'not-fixable': 'The finding "{finding}" cannot be fixed automatically. Its advice says what to do.',
    'parts-differ': 'The list must have each part {where} once: {parts}.',
    'given-pages-of-both':
      'Pages that are handed over are those of one side: what visitors get (public), or the site’s own (origin).',
    'no-pages-given':
      'No pages of this set were handed over, or they have been read already. Hand them over again.',
    'host-elsewhere': 'The host {host} is in {environment}, not in {asked}.',
    'no-such-purpose': 'The site does not ask for consent to “{purpose}”. Its purposes: {known}.',
    'no-password':
      'You have no password: you sign in elsewhere. Choose one under “Your account” in the console first.',
    'current-password-wrong': 'The current password is wrong.',
    'code-wrong':
      'This is not a code of that secret. Check that the clock of your phone is right, and enter the code that it shows now.',
    'passkey-late': 'That took longer than five minutes. Begin again.',
    'passkey-refused':
      'Your browser’s answer does not fit, so no passkey was kept. Begin again, at the address at which you use Pragmatica.',
    'same-password': 'The new password is the same as the old one.',
  },
  'not-possible': {
    'backup-not-made': 'This backup has not been made, so there is no file.',
    'backup-not-here':
      'The file {file} is not in the folder of this service. It was made on {machine}: take it from there.',
    'backup-encrypted':
      'This backup is encrypted, and the service has no key that opens it. Download it and use the command line: pragmatica backup bring-back FILE SITE --key KEYFILE.',
    'restore-not-empty':
      'There is something in this installation already, and nothing of it is overwritten. Start a new one (npm start -- --no-demo, with another PRAGMATICA_DATA) and restore into that. To bring back a single site, name it.',
    'brought-site-exists':
      'There is a site "{site}" already, and it is not overwritten. Bring it back under another key.',
    'backup-under-way': 'A backup is being made or restored just now. Try again when it is done.',
    'nothing-to-undo': 'This changed nothing in the draft, so there is nothing to undo.',
    'undo-undecided':
      '{things} {count, plural, one {was} other {were}} changed again since. Say for {count, plural, one {it} other {each}} whether it stays as it is now or becomes what it was before.',
    'approval-own': 'You asked for this approval yourself. Somebody else has to give it.',
    'approval-over':
      'Nothing is to be decided here any more: {state, select, declined {it was declined} withdrawn {it was withdrawn} published {it was published} other {the draft has changed since}}.',
    'approval-nothing': 'Nothing differs from what is live, so there is nothing to approve.',
  },
  'limit-reached': {
    'limit-reached':
      '{what, select, sites {This installation has {most} sites, and no more are allowed.} members {This installation has {most} members, and no more are allowed.} invitations {{most} invitations are open, and no more are allowed.} recipes {This installation has {most} recipes, and no more are allowed.} snippets {A site can have {most} snippets, and this would be more.} waivers {{most} findings of this site are accepted, and no more are allowed.} approvals {{most} requests for approval are open, and no more are allowed.} comments {This site has {most} comments, and no more are allowed.} handovers {{most} links to blocks to paste are open, and no more are allowed.} webhooks {This site has {most} webhooks, and no more are allowed.} tokens {You have {most} tokens, and no more are allowed.} passkeys {You have {most} passkeys, and no more are allowed.} other {You are connected with {most} at the identity provider, and no more are allowed.}} Remove what is not needed any more, or ask whoever runs this installation to raise the limit.',
  },
  'too-many-calls': {
    'too-many-calls':
      'That were more than {most} calls in a minute, so this one was not answered. Wait a minute; let programs ask less often.',
    'too-many-windows': 'You have {most} windows open here already. Close some of them.',
  },
  'approval-required': {
    'approval-missing':
      'On this site, somebody else looks at a change before it goes live. Ask for approval: under “Releases”, or with “pragmatica approval ask”.',
    'approval-waiting':
      '{by} has asked for approval, and nobody has given it yet. Somebody else has to look at it first.',
    'approval-void': '{by} approved the draft as it was then; it has changed since. Ask for approval again.',
  },
  conflict: {
    'last-owner':
      'Nobody else owns this installation, so it would have no owner left. Make somebody else an owner first.',
    'role-is-everywhere':
      '{name} has a role at all sites, so this site alone cannot take it away. An owner of the installation can, under “Members”.',
    'no-second-factor': 'You sign in with the password alone, so there are no recovery codes to renew.',
    'identity-taken':
      '“{name}” at {provider} signs in somebody here already. Sign in there as somebody else, or ask an owner.',
    'last-way-in': 'Without it you could not sign in any more. Choose a password or add a passkey first.',
    'passkey-there': 'This passkey is kept here already.',
    'login-taken': 'Somebody else signs in as "{login}". Choose another user name.',
    'recipe-differs':
      'The file has version {version} of the recipe "{recipe}", but that version is different here. Nothing was imported.',
    'policy-unsurveyed':
      'No survey of {host} has finished yet, so what its own pages load is unknown. Survey it first: "pragmatica survey", or in the console under “The real site”.',
    'policy-untried':
      'The policy of {host} has not been on trial yet, and may block what its pages need. Start a trial first, and see what browsers report.',
    'policy-not-sent':
      '{host} does not get its pages through the gateway ({way}), so Pragmatica cannot send a policy with them. Write the policy that is shown for each kind of page where the site sets its headers.',
    'preview-beside-console':
      'Previews would share the console’s host name, where a page could act as whoever is signed in. Give them a host name of their own (PRAGMATICA_PREVIEW_ADDRESS).',
    'site-key-taken': 'There is already a site "{key}". Choose another key.',
    'host-taken':
      'The host {host} already belongs to {isSeen, select, true {the site “{site}”} other {another site}}.',
    'snippet-key-taken': 'The site already has a snippet "{key}". Choose another name or key.',
    'snippet-stays': 'It already has a snippet "{key}", which stays as it is.',
    'same-site': 'This is the site it comes from.',
    'recipe-key-taken': 'There is already a recipe "{key}". Choose another name or key.',
    'version-taken':
      '“{name}” already has a different version {version}. Versions never change, so call this one {next}.',
    'installed-already':
      'It already has this, as “{name}”, which stays as it is. To add a second one, give it a name of its own.',
    'nothing-new': '“{name}” matches version {version} of its recipe: there is nothing new.',
    'behind-recipe':
      '“{name}” follows version {version} of “{recipe}”, but the newest is {newest}. Update it first.',
    'follows-already': '“{name}” already follows the recipe “{recipe}”.',
    'follows-newest': '“{name}” already follows the newest version of its recipe.',
    'follows-none': '“{name}” follows no recipe.',
    'no-recipe-knows': 'No recipe recognises the code of “{name}”. Name one, or create one from it.',
    'cannot-follow': '“{name}” stays as it is. {problem}',
    'edited-by-hand': 'Left as it is, because somebody changed it by hand: {replaced}',
    'rehearsal-missing':
      'This site asks for a rehearsal before anything is published, and this draft has had none. Rehearse it (“pragmatica verify --browser --draft”, or “Rehearse the draft” in the console), then publish.',
    'rehearsal-failed':
      'This site asks for a rehearsal before anything is published, and the last one of this draft, round {round}, found something wrong. Fix that, rehearse again, then publish.',
    'nobody-to-tell': 'Nobody gets notices yet: add a webhook or a mail address first.',
    'survey-under-way': 'Survey {number} of {host} is already running. Wait for it, or cancel it first.',
    'block-changed':
      'The text for “{name}” has changed in the meantime. Copy it again, paste it, then tick it off.',
    'sighting-managed': '“{name}” is already managed by the snippet "{snippet}".',
    'exists-already': 'Something with this key or host already exists. Choose another.',
  },
  'changed-meanwhile': {
    'changed-since':
      '{what} has changed since you opened it. Nothing was saved: look at it again, then repeat your change.',
    'changed-since-by':
      '{by} changed this at {at}, after you opened it: {what}. Nothing was saved: look at it again, then repeat your change.',
    'changed-at-once':
      'Somebody else changed it at the same moment. Nothing of yours was saved: look again, then repeat.',
    'published-since':
      'Somebody else has published since you looked. To avoid undoing their release, nothing of yours was published.{count, plural, =0 {} other { Changed in the draft since: {changes}}} Look again, then publish.',
  },
  'nothing-to-publish': {
    'served-already':
      'Nothing to publish: {environments} already {count, plural, one {serves} other {serve}} this draft (release {release}).',
  },
  'errors-found': {
    'errors-found':
      'Nothing was published: the checks find {count, plural, one {an error} other {# errors}}. {title}.{more, plural, =0 {} other { And # more.}} Fix or accept them, or publish with a reason.',
  },
  'not-contained': {
    'not-contained': 'Nothing was published. The code of {names} would break the page around it. {problem}',
  },
  'not-signed-in': {
    'sign-in-first': 'Sign in first: in the console, or with "pragmatica sign-in" on the command line.',
  },
  'wrong-password': {
    'identity-late': 'That took longer than ten minutes, or came back twice. Sign in with {provider} again.',
    'identity-declined':
      '{provider} did not sign you in. Try again, or use your password. If it goes on, ask whoever looks after {provider}.',
    'identity-refused':
      'What {provider} answered does not fit what was asked, so nobody was signed in. Try again. If it goes on, the log says more.',
    'identity-not-yours':
      'You signed in as “{name}” at {provider}, which is not what your account here is connected with. Sign in there as yourself.',
    'passkey-unknown':
      'This passkey does not belong to anybody here, or it took too long. Sign in with your password.',
    'wrong-password':
      'The name or password is wrong. On its first start the service printed a one-time password.',
  },
  'code-required': {
    'code-needed': 'Enter the code that your authenticator shows, or a recovery code.',
    'code-not-right':
      'This is not the code, or it was used already. Wait for the next one, or use a recovery code.',
  },
  'confirmation-required': {
    'confirm-first':
      'Confirm first that it is you: this matters too much for whoever finds your browser open.',
  },
  'password-change-required': {
    'own-password-first': 'You signed in with a one-time password. Choose your own password first.',
    'own-password-along': 'This is a one-time password. Send newPassword as well, to choose your own.',
  },
  'too-many-attempts': {
    'wait-seconds':
      'Too many wrong passwords. Wait {seconds, plural, one {# second} other {# seconds}}, then try again.',
    'wait-minutes':
      'Too many wrong passwords. Wait {minutes, plural, one {# minute} other {# minutes}}, then try again.',
  },
  'cross-site': {
    'other-site': 'This request came from a page of another site and was refused.',
  },
  forbidden: {
    'identity-unknown':
      'Nobody here is connected with “{name}” at {provider}. If you have an account here, sign in with your password and connect it under “Your account”. If not, ask an owner for an invitation.',
    'site-right-missing':
      '{right, select, edit {You can look at “{site}”, but not change anything there.} publish {You may not publish on “{site}”.} other {Only an owner of “{site}” may do that.}}{count, plural, =0 {} other { Ask {owners}.}}',
    'comment-not-yours': 'Only whoever wrote a comment can change its words.',
    'comment-not-to-close':
      'Whoever wrote the comment, or somebody who may edit the site, says that it is done.',
    'comment-not-to-remove': 'Whoever wrote the comment, or an owner of the site, can remove it.',
    'not-yours-to-give': 'Only an owner can invite others, and “{site}” is not yours.',
    'installation-right-missing':
      '{right, select, edit {Recipes are for all sites: it takes the right to edit all of them.} view {It takes the right to view all sites.} other {Only an owner of this installation may do that.}}',
    'token-is-limited':
      'This token was made for less than your account may do, so it cannot change the account. Sign in yourself.',
  },
  'if-match-required': {
    'if-match-missing':
      'Send If-Match with the ETag that you last saw, so that nobody’s change is overwritten.',
  },
  'method-not-allowed': {
    'other-method': '{method} does nothing here; {allowed} does.',
  },
  'malformed-body': {
    'body-not-json': 'The body is not valid JSON.',
  },
  'malformed-request': {
    'not-understood': 'The request cannot be understood: {why}.',
    refused: 'The request was refused: {why}.',
  },
  'too-large': {
    'body-too-large': 'The body is larger than 4 MB.',
  },
  'too-much-to-read': {
    'too-much-to-read':
      'This took too much time or memory to read. Nothing was changed. Shorten the code, or leave out the longest snippet.',
  },
  'unsupported-media-type': {
    'not-json-type': 'Send the body as application/json.',
    'not-upload-type': 'Send the backup as one of these types: {types}.',
    'unknown-coding': 'The body has an unknown Content-Encoding. Send it plain, or with gzip, deflate or br.',
    'unknown-charset': 'The body has an unknown charset. Send it in UTF-8.',
  },
  unavailable: {
    'disk-full':
      'The disk of the database is full, so nothing was saved. Visitors still get their pages. Whoever runs this installation makes room: “pragmatica doctor” says where.',
    'identity-provider-away':
      '{provider} does not answer, so nobody can sign in with it now. Try again in a while, or use your password.',
    'identity-client-refused':
      '{provider} does not take the client id or secret that is set here. Ask whoever runs this installation to look at PRAGMATICA_OIDC_CLIENT and PRAGMATICA_OIDC_SECRET.',
    'database-away':
      'The database does not answer. Visitors still get their pages, but nothing can be viewed or changed here until it is back.',
  },
  internal: {
    internal: 'Something went wrong in Pragmatica itself. The log says what; nothing was changed.',
  },
} as const satisfies Readonly<Record<ErrorCode, Readonly<Record<string, string>>>>);

type UnionToIntersection<U> = (U extends unknown ? (each: U) => void : never) extends (all: infer I) => void
  ? I
  : never;
type Messages = UnionToIntersection<(typeof BY_CODE)[ErrorCode]>;

/** Names one thing that can go wrong. */
export type ProblemId = Extract<keyof Messages, string>;

/** The parameters that its message names. */
export type ProblemParams<Id extends ProblemId> = Params<NamesIn<Extract<Messages[Id], string>>>;

/** All messages by id, with the code of each; patterns as `formatMessage` of core takes them. */
export const PROBLEM_MESSAGES: ReadonlyMap<string, { readonly code: ErrorCode; readonly pattern: string }> =
  new Map(
    Object.entries(BY_CODE).flatMap(([code, messages]) =>
      Object.keys(messages).map((id): [string, { code: ErrorCode; pattern: string }] => [
        id,
        {
          code: code as ErrorCode,
          get pattern() {
            return (messages as Readonly<Record<string, string>>)[id]!;
          },
        },
      ]),
    ),
  );
