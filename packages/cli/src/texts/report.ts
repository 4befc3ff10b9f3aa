import { catalogue } from '@pragmatica/core';

export const REPORT = catalogue('cli.report', {
  acceptedAuthorUntil: 'Accepted by {author} until {until}: {reason}',
  snippetSetSite: 'The snippet set of the site “{site}”; parts by their keys.',
  error: '{number, plural, one {# error} other {# errors}}',
  warning: '{number, plural, one {# warning} other {# warnings}}',
  numberThinkAbout: '{number, plural, one {# suggestion} other {# suggestions}}',
  nothingSayChecks: 'Nothing to fix: the checks find {set} in order.',
  notKnown: 'What the checks could not know',
  noSurvey:
    'The pages: no survey yet, so {checks, plural, one {# check} other {# checks}} saw only the snippets.',
  noFiles:
    'What loaded files do: none has been read, so {checks, plural, one {# check} other {# checks}} could not look inside.',
  noHosts:
    'The hosts: none is known, so {checks, plural, one {# check} other {# checks}} could not tell how its pages get their code.',
  noRecipes:
    'Recipes: there are none, so {checks, plural, one {# check} other {# checks}} had nothing to compare with.',
  orFixIt: '    {arrow} Or: pragmatica fix {id}  {fix}',
  authorAcceptedReason: '{author} accepted it (“{reason}”)',
  wasUntilUntil: '{was} until {until}, which is past.',
  wasButWhat: '{was}, but it has changed since.',
});
