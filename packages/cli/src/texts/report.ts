export const REPORT = {
  acceptedAuthorUntil: 'Accepted by {author} until {until}: {reason}',
  snippetSetSite: 'The snippet set of the site “{site}”; parts by their keys.',
  error: '{number, plural, one {# error} other {# errors}}',
  warning: '{number, plural, one {# warning} other {# warnings}}',
  numberThinkAbout: '{number} to think about',
  nothingSayChecks: 'Nothing to say: the checks find {set} in order.',
  notKnown: 'What the checks could not know',
  noSurvey:
    'No survey yet, so nobody knows the pages: {checks, plural, one {# check} other {# checks}} saw the snippets alone.',
  noFiles:
    'No file that pages load was read: {checks, plural, one {# check} other {# checks}} could not look into them.',
  noHosts:
    'No host of the site is known: {checks, plural, one {# check} other {# checks}} could not tell how its pages get their parts.',
  noRecipes:
    'There are no recipes: {checks, plural, one {# check} other {# checks}} had none to compare with.',
  orFixIt: '    {arrow} Or: pragmatica fix {id}  {fix}',
  authorAcceptedReason: '{author} accepted it (“{reason}”)',
  wasUntilUntil: '{was} until {until}; that is over.',
  wasButWhat: '{was}, but what it shows has changed since.',
} as const;
