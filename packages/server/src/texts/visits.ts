import { catalogue } from '@pragmatica/core';

export const VISITS_TEXTS = catalogue('server.visits', {
  roundStarted: 'Started round {number} of visits to {host}.',
  roundCancelled: 'Cancelled round {number} of visits to {host}.',
  bannerNotFound: 'No consent banner with such a button was found.',
  bannerCovered: 'The button cannot be clicked: {what} covers it.',
  clicked: 'Clicked “{text}”.',
  whyTitle: 'Somebody who asks why “{name}” does not show',
  whyBecause: 'One visit that fulfils what it waits for.',
  pageAnswered: 'it answered with the status {status}.',
  crashed: 'the browser crashed.',
  timeout: 'it took too long.',
  unreachable: 'nothing answers there.',
  hung: 'the page stops answering: something in it runs without end.',
  roundBrokenOff: 'The visits were stopped before there was an answer.',
  pictureTitle: 'A picture of the page',
  pictureOfPage: 'Somebody chooses a place on it.',
  pictureOfPart: 'Somebody looks at what code would show there.',
  troubleAll: 'A new visitor',
  troubleAgainWhy: 'Once more, to see whether it is so each time.',
  troubleAllWhy: 'Shows the page as it is.',
  troubleBare: 'A new visitor, without any snippet',
  troubleBareWhy: 'Shows the page as it would be without Pragmatica.',
  troubleWithout: 'A new visitor, without {names}',
  troubleWithoutWhy: 'Does this go away? {symptom}',
  troubleFormer: 'A new visitor, with “{name}” as it was in release {release}',
  troubleFormerWhy: 'Did its last change do it? {symptom}',
  troubleNoPage: 'The page could not be opened.',
  troubleSince: 'It has been in this form since release {release} ({date}).',
  cancelled: 'the visit was cancelled.',
});

/** Why a round of visits ended early, by id. */
export const VISIT_PROBLEMS = catalogue('server.visit-problems', {
  'no-browser': '{problem}',
  'host-gone': 'The host {host} is no longer one of the site’s.',
});
