import { catalogue } from './catalogue.js';

/** What a site tells of what its own people have done. */
export const ACT_NOTICE_TEXTS = catalogue('core.act-notices', {
  publishedSubject: 'release {release} was published',
  forcedSubject: 'release {release} was published in spite of errors',
  published: '{by} published release {release} to {environments} on {moment}: {message}',
  forced: 'The checks had found errors:',
  error: '- {title}',
  reason: 'The reason that was given: {reason}',
  releaseLink: 'What it changed: {address}',
  restoredSubject: '{environment, select, live {the live site} other {staging}} serves release {release}',
  restored:
    '{by} put release {release} into {environment, select, live {the live site} other {staging}} on {moment}.',
  askedSubject: '{by} asks for approval',
  asked: '{by} asks for approval before it goes live: {message}',
  askedLink: 'Look at what changes, then approve or decline it: {address}',
  askedVoid: 'The request is void as soon as the draft changes.',
  approvedSubject: '{by} approved what {asker} asked for',
  declinedSubject: '{by} declined what {asker} asked for',
  withdrawnSubject: '{by} withdrew a request for approval',
  decided: 'It was about: {message}',
  note: '{by} says: {note}',
  approvedNext: 'It can be published now, as long as the draft stays as it is: {address}',
  declinedNext: 'Change the draft, then ask again: {address}',
  withdrawnNext: 'Nobody has to look at it any more: {address}',
});
