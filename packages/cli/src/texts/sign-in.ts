import { catalogue } from '@pragmatica/core';

export const SIGN_IN = catalogue('cli.sign-in', {
  signOncePer: 'sign in, once per machine; asks for name and password',
  whoYou: 'who you are',
  readPasswordFrom:
    'read the password from standard input; a second line is the new password that replaces a one-time one, a third the code of an authenticator',
  examplesPragmaticaSign:
    '\nExamples:\n  pragmatica sign-in\n  printf "%s\\n" "$PASSWORD" | pragmatica sign-in --login admin --stdin',
  thereNobodyAsk: 'Nobody is there to answer. Give the password on standard input with --stdin.',
  name: 'Name',
  password: 'Password',
  code: 'Code of your authenticator, or a recovery code',
  commandLineHostname: 'command line on {hostname}',
  oneTimePassword: 'This is a one-time password. Give your own new one on a second line of standard input.',
  wasOneTime: 'That was a one-time password. Choose your own (10 characters or more).',
  signedServerLogin: 'Signed in to {server} as {login}. The token is kept in {configFile}.',
  newPassword: 'New password',
  sameAgain: 'Repeat the new password',
  twoPasswordsDiffer: 'The two passwords differ. Nothing was changed; run sign-in again.',
});
