import { catalogue } from './catalogue.js';

/** What a visit found, in words: causes with what to do, reasons for waiting, steps of an answer. */
export const VISIT_TEXTS = catalogue('core.visit', {
  onlyFirst: 'It is only for visitors who are here for the first time.',
  onlyReturning: 'It is only for visitors who have been here before.',
  otherWidth: 'It is not for windows that are {width} pixels wide.',
  cameLately:
    'It came on the last visit, and comes at most once in {days, plural, one {a day} other {# days}}.',
  waitsFor: 'It waits: {wait}.',

  delivered: 'Its code is in the page, where it belongs.',
  loadedAll: '{count, plural, one {Its file} other {All # of its files}} loaded.',
  loadsNothing: 'It loads no files.',
  ran: 'Its code ran without errors.',
  shownAt: 'Visitors see it: {what}.',
  shownInPage: 'Visitors see it in the page: {what}.',
  answeredAlready: 'The visitor has answered it, so it does not ask again.',
  underModal: 'Until the visitor closes {what}, it is covered.',
  showsNothing: 'It has nothing to show.',
  reportedTo: 'It reported to {hosts}.',
  reportedToStandIn: 'It reported to {hosts}. A stand-in answered, so nothing was counted there.',
  harStandIn: 'A stand-in answered; the host was not asked.',
  answeredByHost: '{count} answered',
  answeredByStandIn: '{count} answered by a stand-in',
  answeredByNobody: '{count} without an answer',
  notLetThrough: '{count} blocked',
  oneByHost: 'answered',
  oneByStandIn: 'answered by a stand-in',
  oneByNobody: 'no answer',
  oneNotLetThrough: 'blocked',
  reportsNothing: 'It has nothing to report.',
  notReached: 'Not reached.',
  waits: 'It waits for something the visitor has not done.',

  deliveredThough: 'It runs on this page load though it should not: {because}',
  deliveredThoughAdvice:
    'Look for a second copy of its code in the site’s own template, or for a cache that serves an older page.',

  policyFile: 'The page’s content policy blocks {host}.',
  policyFileAdvice: 'Allow {host} in the site’s content policy ({directive}).',
  policyInline: 'The page’s content policy blocks its inline code.',
  policyInlineAdvice:
    'Let Pragmatica extend the policy, or have the site’s own server allow this code by its hash or a nonce.',
  policyEval: 'The page’s content policy forbids code made from text (eval), which it needs.',
  policyEvalAdvice:
    'Ask the provider for code that does not need eval, or allow unsafe-eval if there is no other way.',
  mixedContent: 'The page comes over https and its file {file} over plain http, which browsers block.',
  mixedContentAdvice: 'Change http:// to https:// in its code.',
  noHost: 'There is no server called {host}.',
  noHostAdvice:
    'Check the address for a typing mistake. If it is right, the provider has given up that name: ask for new code.',
  noAnswer: '{host} does not answer.',
  noAnswerAdvice: 'The provider is down, or has moved. Check its status page, or ask for new code.',
  certificate: '{host} has a certificate that browsers do not trust.',
  certificateAdvice: 'Only the provider can fix this. Until then nothing loads from there.',
  notFound: '{host} has no file {file} (it answered {status}).',
  notFoundAdvice:
    'Check the address and the account number in its code, or ask the provider for the current code.',
  refusedByHost: '{host} refuses this site ({status} for {file}).',
  refusedByHostAdvice:
    'Register {site} as a domain of your account with the provider, and check the account number in its code.',
  tooMany: '{host} says that this site asks too often (429 for {file}).',
  tooManyAdvice: 'The account’s limit with the provider is used up. Wait, or get a larger plan there.',
  providerDown: '{host} is failing: it answered {status} for {file}.',
  providerDownAdvice: 'Nothing is wrong here. Check the provider’s status page, or tell the provider.',
  otherStatus: '{host} answered {status} for {file}.',
  otherStatusAdvice: 'Compare its code with the provider’s current code.',
  wrongType:
    'What {host} sends for {file} is not a {kind}{type, select, none {} other { but {type}}}, so browsers do not use it.',
  wrongTypeAdvice:
    'Check the address: it leads to something else. If it is right, the provider sends the wrong content type.',
  notShared: '{host} does not share {file} with this site, so the browser refuses it.',
  notSharedAdvice:
    'Remove the attribute crossorigin from its tag, or ask the provider to send Access-Control-Allow-Origin.',
  integrity:
    'The file {file} has changed since its fingerprint was written into the code, so browsers refuse it.',
  integrityAdvice: 'Get the current code from the provider, or remove the attribute integrity.',
  unanswered: '{host} had still not sent {file} after {seconds} seconds.',
  unansweredAdvice: 'The provider is slow right now. Try again later; if it stays slow, tell the provider.',
  forbidden: 'This visit is not allowed to load from {host}.',
  forbiddenAdvice: 'It is in a private network, or third parties were switched off for this visit.',
  otherFailure: '{file} did not load from {host} ({error}).',
  otherFailureAdvice: 'Open the address in a browser to see what the provider says.',
  neverAsked: 'It never requested {file}.',

  syntax: 'Browsers cannot read its code: {message}.',
  syntaxAdvice:
    'A character is missing or was lost on the way. Copy the code from the provider again, from the first to the last character.',
  exception: 'Its code stops with an error: {message}.',
  exceptionAdvice:
    'Send this error to the provider. If it began after a change here, restore the release before it.',
  undefinedLater: '“{name}” is not there yet when its code runs: “{maker}” defines it, and comes later.',
  undefinedLaterAdvice: 'Move “{maker}” above it.',
  undefinedOut: '“{name}” is not there: “{maker}” defines it, and does not run on this page load. {because}',
  undefinedOutAdvice: 'Give both the same reach, or switch “{maker}” on.',
  undefinedFailed: '“{name}” is not there: “{maker}” defines it, and did not load.',
  undefinedFailedAdvice: 'Fix “{maker}” first.',
  undefinedOwn:
    '“{name}” is not there: its own file {file}, which probably defines it, comes later or did not load.',
  undefinedOwnAdvice: 'Put its loader before the code that uses it, without async or defer.',
  undefinedNobody: '“{name}” is not there: nothing on this page defines it.',
  undefinedNobodyAdvice: 'Add the provider’s loader, often called step 1 of its install, before this code.',
  missingElement: 'It looks for the element {selector}, which this page does not have.',
  missingElementAdvice:
    'Add that element to the page, give the snippet the part that adds it, or exclude this page from its reach.',
  lateElement: 'It looks for the element {selector} before the page has it.',
  lateElementAdvice: 'Move it to the end of the body, or at least below that element.',
  didNotRun: 'Its code is in the page, but the browser did not run it.',
  didNotRunAdvice:
    'Look for a wrong type on its script tag, or an unclosed tag, comment or script before it.',
  heldUp: 'It has not run yet: the page is still waiting for {file} of “{name}”, which comes first.',
  heldUpAdvice:
    'Load “{name}” with async or defer, or move it below this one, so that a slow provider holds nothing up.',
  heldUpByPage: 'It has not run yet: the page is still waiting for its own script {file}, which comes first.',
  heldUpByPageAdvice: 'Whoever edits the site’s pages can load that script with async or defer.',
  fileDidNotRun: 'The browser got {file}, but did not run it.',
  fileDidNotRunAdvice:
    'Check that the address leads to a script, and that the attributes of its tag are the provider’s.',
  heldByType: 'Its script tags have the type “{type}”, so browsers do not run them.',
  heldByTypeAdvice:
    'Such a type is for consent banners that release code themselves. Let Pragmatica’s reach wait for consent instead and remove the type, or check that the banner releases it.',
  missingGlobal: 'Its code ran, but did not define “{name}”.',
  missingGlobalAdvice: 'Compare it with the provider’s current code.',

  despite: 'It works, though something failed: {message}',

  hidden: 'It added {what} to the page, but a style hides it ({css}).',
  hiddenAdvice:
    'Look for a style of the site that hides it, or a setting with the provider (opening hours, pages, languages).',
  outside: 'It added {what} outside the window.',
  outsideAdvice:
    'Look for a style of the site that moves it, or choose another corner in your account with the provider.',
  covered: '{what} is there, but “{by}” covers it.',
  coveredByPage: '{what} is there, but {by}, part of the page, covers it.',
  coveredEvidence: '{what} is under {by}',
  coveredAdvice: 'Move one of the two to another corner, or show one only after the other has closed.',
  providerSays: 'Nothing shows. Its own script says: “{said}”',
  providerSaysAdvice: 'Do what it says in your account with the provider, then check again.',
  nothingShown: 'It loaded and ran, but added nothing to the page.',
  nothingShownAdvice:
    'No cause was found. Check in your account with the provider that this domain is registered, the widget is switched on, its opening hours are now, and the account number is right.',
  nothingShownNoElement:
    'It added nothing to the page: it fills the element {selector}, which this page does not have.',

  reportFailed: 'Its report to {host} was refused ({status}).',
  reportFailedAdvice: 'Check the account number, and that {site} is registered with the provider.',
  reportPolicyAdvice: 'Allow {host} in the site’s content policy (connect-src and img-src).',
  nothingReported: 'It loaded and ran, but sent nothing to its provider.',
  nothingReportedAdvice:
    'No cause was found. Check that the account number is right, that it does not wait for consent in its own way, and that counting is switched on in your account with the provider.',
});

/** The rungs, as headings. */
export const RUNG_TITLES = catalogue('core.rung-titles', {
  delivered: 'Delivered',
  loaded: 'Loaded',
  ran: 'Ran',
  shown: 'Shown',
  reported: 'Reported',
});
