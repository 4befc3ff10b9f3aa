import { catalogue } from '@pragmatica/core';

export const AUTH_TEXTS = catalogue('server.auth', {
  commandLine: 'command line',
  signedIn: 'Signed in ({kind}).',
  changedPassword: 'Changed the password.',
  madeTokenName: 'Made the token “{name}”.',
  tookTokenBack: 'Revoked a token.',
  endedSession: 'Ended a session.',
  secondFactorOn: 'Signs in with codes of an authenticator from now on.',
  secondFactorOff: 'Signs in with the password alone again.',
  invited: 'Invited “{name}”.',
  withdrewInvitation: 'Withdrew the invitation of “{name}”.',
  cameByInvitation: 'Became a member by the invitation of {by}.',
  joinedByInvitation: 'Was given more by the invitation of {by}.',
  editedMember: 'Changed the member {login}.',
  removedMember: 'Removed the member {login}.',
  resetPassword: 'Gave {login} a one-time password.',
  gaveSiteRole: 'Gave {login} the role “{role}”.',
  removedSiteRole: 'Took {login} off the site.',
  endedSessions: 'Signed out everywhere else.',
});
