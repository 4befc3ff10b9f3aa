export const SURVEY_TEXTS = {
  surveyDone:
    'Survey {number} of {host}: {visited, plural, one {one page} other {# pages}} visited{failed, plural, =0 {} other {, # of them not readable}}.',
  surveyStarted: 'Started survey {number} of {host}.',
  surveyStartedAll: 'Started survey {number} of {host}, also of pages that robots.txt forbids.',
  surveyCancelled: 'Cancelled survey {number} of {host}.',
  robotsIgnored: 'Pages that robots.txt forbids were visited as well: {by} asked for it.',
  delayKept: 'robots.txt asks for {seconds} s between two requests, which is kept.',
  limitReached:
    'There are more pages than the {limit, number} that this survey may visit. Raise the limit to see them.',
  shapeCut:
    '{shape}: {found, number} pages of this pattern were found, the first {most, number} were visited. A calendar or filter has no end.',
  moreShapesCut: 'The same for {count, plural, one {one more pattern} other {# more patterns}}.',
  scheduled: 'Surveys of {host} {when} from now on.',
  unscheduled: 'No more surveys of {host} by themselves.',
  adoptedName: 'Adopted “{name}” from the site’s pages: it is off until the copy in the site is gone.',
  adoptedWords:
    '“{name}” is in the draft, switched off, so that nothing runs twice. {removal} Then run a survey; once the copy is gone, switch it on.',
  ignoredName: 'Leaves “{name}” in the site’s pages alone: {reason}',
  heededName: 'No longer leaves “{name}” in the site’s pages alone.',
  excludeOnWay:
    'Something between Pragmatica and the visitors of {page} rewrites it, such as a service or a plugin that speeds pages up. Exclude it there.',
  unnamed: 'Script in the page',
} as const;

/** Why a survey ended early, by id. */
export const SURVEY_PROBLEMS = {
  'robots-unreachable':
    '{address}/robots.txt {status, plural, =0 {did not answer} other {answered with error {status}}}. As long as it does, nobody may walk over the site (RFC 9309). Try again later, or, as it is your own site, survey it all the same with “ignore robots.txt”.',
  'access-no-form':
    'The page of {host} that asks for the password has no such form, or it was not reached. Open it in a private window, and store the access anew with the page that has the form.',
  'access-wrong-password':
    '{host} asked for the password again: it may have been changed. Store the access anew, in the site’s settings.',
  'survey-host-gone': 'The host {host} is no longer one of the site’s.',
} as const;
