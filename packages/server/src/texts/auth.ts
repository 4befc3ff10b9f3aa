import { catalogue } from '@pragmatica/core';

export const AUTH_TEXTS = catalogue('server.auth', {
  commandLine: 'command line',
  signedIn: 'Signed in ({kind}).',
  changedPassword: 'Changed the password.',
  madeTokenName: 'Made the token “{name}”.',
  tookTokenBack: 'Revoked a token.',
  endedSession: 'Ended a session.',
  endedSessions: 'Signed out everywhere else.',
});
