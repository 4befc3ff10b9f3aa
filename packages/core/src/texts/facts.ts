import { catalogue } from './catalogue.js';

/** What went wrong in pasting, by kind. */
export const PASTE_WORDS = catalogue('core.paste-words', {
  fence: 'It is wrapped in backticks, as in chats and documents.',
  quoted: 'Its lines start with >, as in a quoted mail.',
  numbered: 'Its lines are numbered.',
  invisible: 'It has invisible characters in its code.',
  'whole-page': 'It is a whole page, with its own head and title.',
  'doubled-tags': 'One of its script tags is inside another.',
  'end-tag-in-string': 'Its script ends at a </script> inside a string.',
  'escaped-in-script': 'Its script has &lt; or &amp; where it needs < or &.',
});

export const FACTS_TEXTS = catalogue('core.facts', {
  scriptAddressIgnores:
    'A script tag with an address (src) ignores the code inside it. Put that code in a script tag of its own.',
  dataScriptNo: 'The data in this script is not valid JSON, so nothing can read it.',
  thereNoCode: 'There is no code here yet.',
  scriptTextWithout:
    'This script has no <script> tags around it, so browsers would show it as text instead of running it.',
  codeWasCopied:
    'This code was copied as text: its tags are written as &lt; and &gt;, so browsers would show them instead of using them.',
  codeHasTypographic:
    'This code has curly quotes (“ ”) where straight ones (") belong; a word processor may have changed them. Browsers do not understand them there.',
  codeCouldNot: 'This code could not be read: {why}.',
  couldNotBecause: {
    nesting: 'its brackets or tags are nested hundreds of levels deep',
    length: 'it puts together texts that are too long to follow',
    work: 'it took too long',
    memory: 'it took too much memory',
    time: 'it took longer than {seconds, plural, one {# second} other {# seconds}}',
  },
  looksLike:
    'Looks like {shape}{confidence, select, likely { (likely)} guess { (a guess)} other {}}. {because}',
  cannotBeTold: 'Its code does not say.',
  problemAt: 'Line {line}, column {column}: {message}',
  loads:
    '{kind} from {host}{waits, select, yes {, and the page waits for it} other {}}{when, select, fallback {, for browsers without scripts} deferred {, once the page has been read} later {, later} other {}}{confidence, select, likely { (likely)} guess { (a guess)} other {}}: {address}',
  ownSite: 'the site itself',
  account: '{value}, as “{label}”{confidence, select, likely { (likely)} guess { (a guess)} other {}}',
  accountAt:
    '{value} at {domain}, as “{label}”{confidence, select, likely { (likely)} guess { (a guess)} other {}}',
  needsNameGuarded:
    '“{name}” from other code{when, select, deferred {, once the page has been read} later {, later} other {}}; it checks that this exists first',
  needsName:
    '“{name}” from {from, select, script {probably the script it loads} other {other code}}{when, select, deferred {, once the page has been read} later {, later} other {}}',
  needsElement:
    'the element {selector}{own, select, before {, which it adds itself} after {, which it adds itself, but too late} other {}}{when, select, deferred {, once the page has been read} later {, later} other {}}{isGuarded, select, true {; it checks that this exists first} other {}}',
  makesName: '“{name}”{isStub, select, true {, which waits for the provider’s script} other {}}',
  makesElement: 'an element with the id “{id}”',
  event: '“{name}” to {to}',
  keeps: '{where, select, cookie {a cookie} other {a value}} ({where})',
  keepsKey: '{where, select, cookie {a cookie} other {a value}} “{key}” ({where})',
  box: 'a box: {corner}{position, select, sticky {, while the page moves} other {}}',
  example: '“{value}” is an example value',
  testMode: 'test mode: {value}',
  secret: 'a secret that every visitor can read',
  writesWhileRead: 'writes into the page while it loads',
  writesAfterwards: 'writes into the page after it has loaded, which empties it',
});

/** Headings over the facts of a piece of code. */
export const FACT_TITLES = catalogue('core.fact-titles', {
  shape: 'What it is',
  problems: 'Problems',
  loads: 'Loads',
  accounts: 'Accounts',
  needs: 'Needs',
  makes: 'Defines',
  reports: 'Reports',
  keeps: 'Stores in the browser',
  boxes: 'Floats over the page',
  marks: 'Needs attention',
});

export const SHAPE_NAMES = catalogue('core.shape-names', {
  analytics: 'analytics',
  container: 'a tag container',
  pixel: 'a pixel that reports visits or sales',
  chat: 'a chat window',
  ads: 'adverts',
  'pop-up': 'a pop-up',
  booking: 'a booking button or calendar',
  form: 'a form',
  consent: 'a consent banner',
  accessibility: 'an accessibility menu',
  share: 'share buttons',
  style: 'styles',
  metadata: 'metadata for search engines',
  other: 'something its code does not reveal',
});

export const LOAD_NAMES = catalogue('core.load-names', {
  script: 'a script',
  style: 'styles',
  image: 'an image',
  frame: 'a frame',
  font: 'a font',
  data: 'data',
  hint: 'a preload hint',
});
