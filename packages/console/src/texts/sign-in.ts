import { catalogue } from '@pragmatica/core';

export const SIGN_IN = catalogue('console.sign-in', {
  chooseYourPassword: 'Choose your password',
  welcomeLoginOne: 'Welcome, {login}. The one-time password is used up; choose one that only you know.',
  oneTimePassword: 'One-time password',
  newPassword: 'New password',
  minlengthCharactersMore: '{minLength} characters or more; a few words are fine.',
  sameAgain: 'Repeat password',
  twoDiffer: 'The passwords differ.',
  usePassword: 'Set password',
  pragmatica: 'Pragmatica',
  sign: 'Sign in',
  again: 'Sign in again',
  againText:
    'Your session has ended. Sign in as {login} to pick up where you left off. Nothing you typed is lost.',
  firstTimeOne:
    'First time here? Sign in as admin, with the one-time password that the service printed when it started.',
  name: 'User name',
  code: 'Code',
  codeHint: 'From your authenticator app, or a recovery code.',
  passkey: 'Sign in with a passkey',
  passkeyDeclined: 'Nobody was signed in. Try again, or use your password.',
  password: 'Password',
  identity: 'Sign in with {provider}',
  answering: 'Signing you in',
  answerLost: 'Begin in this browser',
  answerLostText:
    'This page goes on with a sign-in that somebody began here, and nobody did, or it was finished before. Sign in from the start.',
  answerRefused: 'You are not signed in',
  answerNotTaken: 'That did not work with {provider}',
  asSomebodyElse: 'Use another account at {provider}',
  confirmed: 'Confirmed',
  confirmedText: 'Close this window and go on in the other one.',
  languages: 'Language',
  tryAgain: 'Try again',
  back: 'Back',
});
