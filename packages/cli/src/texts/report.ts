export const REPORT = {
  acceptedAuthorUntil: 'Accepted by {author} until {until}: {reason}',
  snippetSetSite: 'The snippet set of the site “{site}”; parts by their keys.',
  error: '{number, plural, one {# error} other {# errors}}',
  warning: '{number, plural, one {# warning} other {# warnings}}',
  numberThinkAbout: '{number} to think about',
  nothingSayChecks: 'Nothing to say: the checks find {set} in order.',
  orFixIt: '    {arrow} Or: pragmatica fix {id}  {fix}',
  authorAcceptedReason: '{author} accepted it (“{reason}”)',
  wasUntilUntil: '{was} until {until}; that is over.',
  wasButWhat: '{was}, but what it shows has changed since.',
} as const;
