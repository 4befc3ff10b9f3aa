import { catalogue } from '@pragmatica/core';

/** Your own access: tokens and browsers. */
export const ACCOUNT = catalogue('cli.account', {
  tokenGroup: 'bearer tokens, for programs that act for you',
  tokenList: 'list your tokens, and when each was last used',
  tokenCreate: 'make a token; it is shown once',
  tokenDays: 'for so many days it works',
  tokenRole: 'what it may do; left out: all that you may. deploy publishes what others have edited',
  tokenSites: 'the only sites that it sees; left out: all that you see',
  headMay: 'MAY',
  mayAll: 'all',
  mayAt: 'at {sites}',
  tokenRevoke: 'revoke a token at once',
  tokenExamples:
    '\nExamples:\n  pragmatica token list\n  pragmatica token create "Build pipeline" --days 90 --role deploy --only-site skerrywick\n  pragmatica token revoke 7',
  tokenMade: 'Token {id}, “{name}”, works until {until}. It is not shown again:',
  tokenRevoked: 'Token {id} is revoked.',
  tokenUse:
    'Programs send it as "Authorization: Bearer TOKEN"; the command line reads it from PRAGMATICA_TOKEN.',
  noTokens: 'No tokens.',
  notUsed: 'not yet',
  expired: 'expired',
  headName: 'NAME',
  headMade: 'CREATED',
  headUsed: 'LAST USED',
  headUntil: 'WORKS UNTIL',
  headFrom: 'FROM',
  headDevice: 'DEVICE',
  sessionGroup: 'browsers in which you are signed in to the console',
  sessionList: 'list them, and when each was last used',
  sessionEnd: 'sign out one browser, or all of them',
  sessionAll: 'sign out everywhere; tokens stay',
  sessionExamples:
    '\nExamples:\n  pragmatica session list\n  pragmatica session end 12\n  pragmatica session end --all\n  pragmatica session confirm',
  sessionConfirm: 'give your password again, so that what matters most can be done for some minutes',
  confirmStdin: 'read the password from standard input',
  confirmWhy: 'This matters too much for whoever finds your terminal open.',
  confirmPassword: 'Your password',
  confirmFirst:
    'This takes your password again, and nobody is here to ask. Run "pragmatica session confirm --stdin" first.',
  confirmedUntil: 'Confirmed until {until}.',
  sessionEnded: 'Session {id} has ended.',
  sessionsEnded: 'You are signed out of the console everywhere.',
  sessionWhich: 'Say which session ends: its number, or --all.',
  noSessions: 'You are not signed in to the console anywhere.',
});
