import { catalogue } from './catalogue.js';

/** What is wrong on a page, and who has done it. */
export const TROUBLE_TEXTS = catalogue('core.trouble', {
  broken: '“{name}” breaks this page. {symptom}',
  brokenTogether: '{names} break this page together. {symptom}',
  brokenUnknown: 'This page is worse with the snippets than without, and no single one causes it. {symptom}',
  brokenItself: 'The page itself is broken, even without any snippet. {symptom}',
  brokenChangedAdvice:
    'Restore “{name}” from release {former} and publish, or switch it off until it is fixed.',
  formerWell: 'As “{name}” was in release {former}, the page works: its last change breaks it.',
  formerSince:
    '“{name}” has broken the page since release {since}. As it was in release {former}, the page works.',
  formerToo:
    '“{name}” breaks the page as it was in release {oldest}, too: no change here is the cause, so ask its provider.',
  brokenAdvice: 'Switch “{name}” off and publish, then talk to its provider.',
  brokenTogetherAdvice: 'Switch one of them off and publish.',
  brokenUnknownAdvice:
    'If it began with the newest release, restore the one before it, and look at the visits.',
  brokenItselfAdvice: 'Nothing here causes it. Ask whoever edits the site’s own pages.',
  twiceFile: '{file} runs {count} times{known, plural, =0 {} other {: by {names}}}.',
  twiceReport: '{host} gets the same report {count} times{known, plural, =0 {} other {: by {names}}}.',
  findBoth: 'look for its address in the page’s code and in your containers.',
  twiceAdvice: 'Keep one of the two: {how}',
  keepHere: 'remove the code from the site’s own template, or switch the snippet off here.',
  switchOff: 'switch “{name}” off here.',
  removeInContainer: 'remove it in the container “{name}”, or switch the other one off here.',
  pageItself: 'the page itself',
  through: '“{name}” through {file}',
  quoted: '“{name}”',
  early: '{who} stores {keys} before the visitor has agreed to anything.',
  earlyAdvice: 'Have “{name}” wait for consent: choose its purpose in its reach.',
  earlyItselfAdvice: 'It is the site’s own code: ask whoever edits it whether it needs consent.',
  unknownWho: 'Something that cannot be traced',
  missed: '“{name}” does not get as far as it should: {message}',
  well: 'Nothing is wrong on {path}: {facts}.',
  wellFacts: {
    missed: '{count, plural, one {the snippet works} other {all # snippets work}}',
    twice: 'nothing happens twice',
    early: 'nothing is stored before the visitor has agreed to it',
    broken: 'the page is as it is without {count, plural, one {it} other {them}}',
  },
  wellNone: 'Nothing is wrong on {path}, and no snippet runs there.',
  hungItself: 'The page stops responding: something in it runs without end.',
  status: 'It answers with the status {status}.',
  ownError: 'Its own script stops with an error: {message}',
});
