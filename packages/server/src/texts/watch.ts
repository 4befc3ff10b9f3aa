import { catalogue } from '@pragmatica/core';

export const WATCH_TEXTS = catalogue('server.watch', {
  settings: 'How this site is watched',
  set: 'Changed how the site is watched: {what}.',
  never: 'no visits by themselves',
  scheduled: 'visits {when}',
  afterNothing: 'nothing after a release',
  afterLook: 'visits after a release',
  afterPutBack: 'visits after a release, and the previous one restored if something stops working',
  rehearsed: 'only a rehearsed draft is published',
  standIns: 'stand-ins answer what visits report',
  blocked: 'other hosts are blocked in visits',
  hostAnswers: '{count, plural, one {a rule for # host} other {rules for # hosts}}',
  budget: 'a budget of {kb} kB per page',
  mail: '{count, plural, =0 {no mail} one {mail to # address} other {mail to # addresses}}',
  webhookAdded: 'Added a webhook to {host}.',
  webhookRemoved: 'Removed the webhook to {host}.',
  putBack: 'Automatically restored release {former} on {environment}: with release {release}, {what}.',
  isRemoved: 'The webhook was removed.',
  isGone: 'It says that it is gone for good (410), so nothing more is sent there.',
  answered: 'It answered {status}.',
  noSecret: 'Its secret cannot be opened with this installation’s key. Remove the webhook and add it again.',
  noMailServer: 'No mail server is set up any more.',
  mailTaken: 'The mail server took it: {answer}',
});

/** Who acts where nobody asked. */
export const WATCHER = 'pragmatica';
