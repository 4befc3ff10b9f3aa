export const AUTH_TEXTS = {
  commandLine: 'command line',
  signedIn: 'Signed in ({kind}).',
  changedPassword: 'Changed the password.',
  madeTokenName: 'Made the token “{name}”.',
  tookTokenBack: 'Took a token back.',
} as const;
