import { catalogue } from '@pragmatica/core';

export const SURVEY_TEXTS = catalogue('server.survey', {
  surveyDone:
    'Survey {number} of {host}: {visited, plural, one {one page} other {# pages}} visited{failed, plural, =0 {} other {, # of them not readable}}.',
  surveyStarted: 'Started survey {number} of {host}.',
  surveyStartedAll: 'Started survey {number} of {host}, also of pages that robots.txt forbids.',
  surveyCancelled: 'Cancelled survey {number} of {host}.',
  robotsIgnored: 'Pages that robots.txt forbids were visited as well: {by} asked for it.',
  delayKept: 'robots.txt asks for {seconds} s between two requests, which is kept.',
  limitReached:
    'There are more pages than the {limit, number} that this survey may visit. Survey again with a higher limit to see them.',
  shapeCut:
    '{shape}: {found, number} pages of this pattern were found, and the first {most, number} visited. Calendars and filters never end.',
  moreShapesCut: 'The same for {count, plural, one {one more pattern} other {# more patterns}}.',
  scheduled: 'Surveys of {host} now run {when}.',
  unscheduled: 'Stopped the planned surveys of {host}.',
  adoptedName: 'Adopted “{name}” from the site’s pages: it is off until the copy in the site is gone.',
  adoptedWords:
    '“{name}” is in the draft, switched off, so that nothing runs twice. {removal} Then run a survey; once the copy is gone, switch it on.',
  ignoredName: 'Ignored “{name}” in the site’s pages: {reason}',
  heededName: 'Stopped ignoring “{name}” in the site’s pages.',
  excludeOnWay:
    'Something between Pragmatica and the visitors of {page} rewrites it, such as a service or a plugin that speeds pages up. Exclude it there.',
  unnamed: 'Script in the page',
});

/** Why a survey ended early, by id. */
export const SURVEY_PROBLEMS = catalogue('server.survey-problems', {
  'robots-unreachable':
    '{address}/robots.txt {status, plural, =0 {did not answer} other {answered with error {status}}}. Until that changes, nobody may crawl the site (RFC 9309). Try again later, or, as it is your own site, survey it anyway with “ignore robots.txt”.',
  'access-no-form':
    'The page of {host} that asks for the password has no such form, or it was not reached. Open it in a private window, and store the access again with the page that has the form.',
  'access-wrong-password':
    '{host} asked for the password again: it may have changed. Store the access again, in the site’s settings.',
  'survey-host-gone': 'The host {host} is no longer one of the site’s.',
});
