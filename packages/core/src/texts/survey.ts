import { catalogue } from './catalogue.js';

export const SURVEY_TEXTS = catalogue('core.survey', {
  onNoPage: 'On none of the pages seen.',
  onAllPages: '{expected, plural, one {On the one page} other {On all # pages}} where it should be.',
  missingOn: 'On {present} of {expected} pages; missing on {where}.',
  pagesAndMore: '{pages} and {more, plural, one {one more} other {# more}}',

  policyStrict:
    'The pages load no script files of their own and their inline scripts never change, so scripts run only with a one-time mark (nonce) or by hash. What your snippets’ own files load needs no entry.',
  policyFiles:
    'The pages load {files, plural, one {one script file} other {# script files}} of their own, so scripts are allowed by host.',
  policyChanging:
    '{scripts, plural, one {One inline script} other {# inline scripts}} of the pages differ from page to page and can’t be allowed by hash. Inline scripts stay allowed: the policy guards which files load, not what is written into a page.',
  policyMany:
    'The pages hold {scripts} different inline scripts, too many to list by hash. Inline scripts stay allowed: the policy guards which files load, not what is written into a page.',

  putBySnippet: 'Added by “{snippet}”.',
  lookAll: '{pages, plural, one {Its one page was} other {All its # pages were}} read.',
  lookSome: '{pages, plural, one {One of its pages was} other {# of its pages were}} read; there are more.',
  lookNone: 'No page could be read.',
  lookFailed: '{failed, plural, one {One page} other {# pages}} could not be read.',
  lookEmpty: 'No provider’s code is in them yet.',
  lookThings: 'Already in them: {list}.',
  lookMore: '{more, plural, one {one more} other {# more}}',
  lookOnSome: '{name} (on {on, plural, one {one page} other {# pages}})',
  lookSeveral:
    '{shape, select, analytics {Visits are counted} container {Tag containers are loaded} chat {Chats are offered} other {Consent is asked for}} more than once: {list}. Is each of them still wanted?',
  lookConsent:
    'Visitors are asked for consent by {name}. Say under Settings how it keeps the answer, and snippets can wait for it.',
  lookPolicy:
    '{pages, plural, one {One page says} other {# pages say}} which scripts may run on it (a content policy). What you add must be allowed there.',
  bringsOurs: 'Delivers your snippets: the one line, or a pasted block.',
  carrierName: 'Pragmatica',
  copySame: 'The same code as “{snippet}”, in the site itself.',
  copyReformatted: 'The same code as “{snippet}”, written another way, in the site itself.',
  copyAccount: 'Reports to the same account as “{snippet}”, from the site itself.',
  copyLoader: 'Loads the same file as “{snippet}”, from the site itself.',
  copyOff: '“{snippet}” installs the same, but is off: this copy in the site itself is the one that runs.',
  alteredReformatted:
    '“{snippet}” arrives changed: something between Pragmatica and the visitor rewrote its code.',
  alteredAccount: 'Like “{snippet}”, but for the account {theirs} instead of {ours}.',
  alteredLoader: '“{snippet}” arrives changed: the same file is loaded, by other code.',
  runsTwice: 'On {count, plural, one {one page} other {# pages}} both are there, so it runs twice.',
  foreignContainer: 'A tag container. What it loads is decided at the provider, so it cannot be read here.',
  foreignKnown: '{kind}. No snippet manages it.',
  foreignOwn: 'Part of the site itself.',

  neverRunsComment: 'It is in a comment, so browsers ignore it.',
  neverRunsConditional: 'It is in a conditional comment, which only very old browsers read.',
  neverRunsTemplate: 'It is in a template, so it does nothing until a script copies it out.',
  neverRunsNoscript: 'It is in a noscript, so only browsers without JavaScript use it.',
  neverRunsType: 'Browsers do not run scripts of its type, so something else has to start it.',

  kindAnalytics: 'Counts visits',
  kindPixel: 'Reports visits to an advertiser',
  kindChat: 'A chat window',
  kindAds: 'Shows adverts',
  kindPopUp: 'A pop-up',
  kindBooking: 'A booking button or calendar',
  kindForm: 'A form',
  kindConsent: 'Asks for consent',
  kindAccessibility: 'An accessibility menu',
  kindShare: 'Share buttons',
  kindStyle: 'A style sheet',
  kindMetadata: 'Metadata for search engines',
  kindFrame: 'A frame with a page from elsewhere',
  kindElement: 'An element that a script fills',
  kindScript: 'A script',

  removeFromPage: 'It is written into {page}. Remove it there.',
  removeFromAll:
    'It is on all {count} pages, so it is probably in the site’s theme or template. Remove it there.',
  removeFromPages:
    'It is on {count} pages ({words}), so it is probably in the template of these pages. Remove it there.',

  inlineCode: 'code in the page itself',

  traitPolicy: 'With a content policy',
  whyPolicy: 'The page says which hosts scripts may come from. Browsers silently block the others.',
  traitNonce: 'With a policy that needs a nonce',
  whyNonce: 'The page allows scripts by a one-time mark that only its own server can give.',
  traitLegacy: 'In an older encoding',
  whyLegacy: 'Characters that the encoding lacks are written as references; Pragmatica does that.',
  traitNoEncoding: 'Without a declared encoding',
  whyNoEncoding: 'Browsers guess how to read its characters, and guess differently.',
  traitLateEncoding: 'With its encoding declared too late',
  whyLateEncoding: 'Browsers look for the declaration in the first 1,024 bytes only.',
  traitQuirks: 'Without a current doctype',
  whyQuirks: 'Browsers lay it out like a page of the 1990s; what floats over it may end up elsewhere.',
  traitNoLanguage: 'Without a language',
  whyNoLanguage: 'Screen readers and translators have to guess its language.',
  traitCanonical: 'Says that it belongs elsewhere',
  whyCanonical: 'Search engines list the other address; visitors still get this one, with its snippets.',

  changedNewPages: '{count, plural, one {One page is} other {# pages are}} new: {where}.',
  changedGonePages: '{count, plural, one {One page is} other {# pages are}} gone: {where}.',
  changedNewSighting: '{name} is new, on {count, plural, one {one page} other {# pages}}, such as {page}.',
  changedGoneSighting: '{name} is gone from the site.',
  changedMoreSighting: '{name} is on {count, plural, one {one more page} other {# more pages}} of {section}.',
  changedFewerSighting: '{name} is gone from {count, plural, one {one page} other {# pages}} of {section}.',
  unnamedThing: 'A script in the page',
  wayAdded:
    '{name} is added in transit, on {count, plural, one {the page {page}} other {# pages, such as {page}}}: neither the site nor Pragmatica puts it there.',
  wayRemoved:
    '{name} is lost in transit, on {count, plural, one {the page {page}} other {# pages, such as {page}}}.',
  wayRewritten:
    '{name} is rewritten in transit, on {count, plural, one {the page {page}} other {# pages, such as {page}}}.',
  wayPolicies:
    'The content policy of {count, plural, one {the page {page}} other {# pages, such as {page},}} is changed in transit.',
  waySkeletons:
    'Other elements arrive than were sent on {count, plural, one {the page {page}} other {# pages, such as {page}}}.',
  wayOnlyVisitors:
    '{count, plural, one {The page {page} answers} other {# pages, such as {page}, answer}} only at the address visitors use.',
  wayOnlyOrigin:
    '{count, plural, one {The page {page} answers} other {# pages, such as {page}, answer}} only at the site’s own server.',
  wayNothing: 'Apart from what Pragmatica adds, visitors get what the site’s own server sends.',

  scheduleDaily: 'every day at {time}',
  scheduleWeekly: 'every {weekday} at {time}',
  scheduleMonthly:
    'on the {day, selectordinal, one {#st} two {#nd} few {#rd} other {#th}} of each month at {time}',
  scheduleCron: 'by “{cron}”',

  fileIsSilent: 'its server does not answer',
  fileIsGone: 'cannot be loaded: its server answers with {status}',
  fileIsLarge: '{kb, number} KB',
  fileSets: 'sets the {count, plural, one {cookie} other {cookies}} {names}',
  fileKeeps: 'keeps {names} in visitors’ browsers',
  fileTalks: 'talks to {names}',
  fileChanged: 'The file {file} has changed.',
  fileChangedOn: 'The file {file} changed on {day}.',
  fileMoreCookies: 'Since then it sets {count, plural, one {one cookie} other {# cookies}} more: {names}.',
  fileFewerCookies: 'It no longer sets the {count, plural, one {cookie} other {cookies}} {names}.',
  fileMoreStores: 'It now keeps {names} in visitors’ browsers.',
  fileMoreHosts: 'It now talks to {names}.',
  fileFewerNames: 'It no longer defines {names}.',
  fileSize: 'It went from {from, number} to {to, number} KB.',
  fileGone: 'The file {file} can no longer be loaded: its server answers with {status}.',
  fileNoAnswer: 'The file {file} can no longer be loaded: its server does not answer.',
  nothingChanged: 'Nothing has changed since survey {number}.',
});
