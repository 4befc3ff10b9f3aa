export const SIGN_IN = {
  chooseYourPassword: 'Choose your password',
  welcomeLoginOne:
    'Welcome, {login}. The one-time password has done its work; nobody but you should know the next one.',
  oneTimePassword: 'One-time password',
  newPassword: 'New password',
  minlengthCharactersMore: '{minLength} characters or more; a few words are fine.',
  sameAgain: 'The same again',
  twoDiffer: 'The two differ.',
  usePassword: 'Use this password',
  pragmatica: 'Pragmatica',
  sign: 'Sign in',
  firstTimeOne: 'The first time, with the one-time password that the service printed when it started.',
  name: 'Name',
  password: 'Password',
} as const;
