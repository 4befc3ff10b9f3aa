/** What went wrong in pasting, by kind. */
export const PASTE_WORDS = {
  fence: 'Backticks stand around the code, as chats and documents set it.',
  quoted: 'Its lines begin with >, as mail programs quote.',
  numbered: 'Its lines are numbered.',
  invisible: 'It has invisible characters in its code.',
  'whole-page': 'It is a whole page, with its own head and title.',
  'doubled-tags': 'Its script tags are there twice, one inside the other.',
  'end-tag-in-string': 'Its script ends at a </script> inside a string.',
  'escaped-in-script': 'Its script has &lt; or &amp; where it needs < or &.',
} as const;

export const FACTS_TEXTS = {
  scriptAddressIgnores:
    'A script with an address ignores the code written inside it. Put that code into a script element of its own.',
  dataScriptNo: 'The data in this script is no valid JSON, so nobody can read it.',
  thereNoCode: 'There is no code here yet.',
  scriptTextWithout:
    'This is script text without <script> tags around it: a browser would show it to visitors as text instead of running it.',
  codeWasCopied:
    'This code was copied as text: its tags are written as &lt; and &gt;, so a browser would show them instead of using them.',
  codeHasTypographic:
    'This code has typographic quotes (“ ”) where plain ones (") belong; a word processor may have changed them. Browsers do not understand them there.',
  codeCouldNot: 'This code could not be read: {why}.',
  looksLike:
    'Looks like {shape}{confidence, select, likely { (likely)} guess { (a guess)} other {}}. {because}',
  cannotBeTold: 'It cannot be told from its code.',
  problemAt: 'Line {line}, column {column}: {message}',
  loads:
    '{kind} from {host}{waits, select, yes {, and the page waits for it} other {}}{when, select, fallback {, for browsers without scripts} deferred {, after the page was read} later {, later} other {}}{confidence, select, likely { (likely)} guess { (a guess)} other {}}: {address}',
  ownSite: 'the site itself',
  account: '{value}, as “{label}”{confidence, select, likely { (likely)} guess { (a guess)} other {}}',
  accountAt:
    '{value} at {domain}, as “{label}”{confidence, select, likely { (likely)} guess { (a guess)} other {}}',
  needsNameGuarded:
    '“{name}” from other code{when, select, deferred {, after the page was read} later {, later} other {}}; it looks first whether that is there',
  needsName:
    '“{name}” from {from, select, script {the script that it loads, probably} other {other code}}{when, select, deferred {, after the page was read} later {, later} other {}}',
  needsElement:
    'the element {selector}{own, select, before {, which it brings itself} after {, which it brings itself, but too late} other {}}{when, select, deferred {, after the page was read} later {, later} other {}}{isGuarded, select, true {; it looks first whether that is there} other {}}',
  makesName: '“{name}”{isStub, select, true {, which waits for the provider’s script} other {}}',
  makesElement: 'an element with the id “{id}”',
  event: '“{name}” to {to}',
  keeps: '{where, select, cookie {a cookie} other {a value}} ({where})',
  keepsKey: '{where, select, cookie {a cookie} other {a value}} “{key}” ({where})',
  box: 'a box: {corner}{position, select, sticky {, while the page moves} other {}}',
  example: '“{value}” is an example’s value',
  testMode: 'test mode: {value}',
  secret: 'a secret that every visitor can read',
  writesWhileRead: 'it writes into the page while the page is read',
  writesAfterwards: 'it writes into the page after the page was read, which empties it',
} as const;

/** Headings over the facts of a piece of code. */
export const FACT_TITLES = {
  shape: 'What it is',
  problems: 'Problems',
  loads: 'Loads',
  accounts: 'Accounts',
  needs: 'Needs',
  makes: 'Makes',
  reports: 'Reports',
  keeps: 'Keeps in the browser',
  boxes: 'Lies over the page',
  marks: 'Look at',
} as const;

export const SHAPE_NAMES = {
  analytics: 'something that counts visits',
  container: 'a container for other tags',
  pixel: 'a pixel that reports visits or sales',
  chat: 'a chat window',
  ads: 'adverts',
  'pop-up': 'a pop-up',
  booking: 'a booking button or calendar',
  form: 'a form',
  consent: 'a question for consent',
  accessibility: 'an accessibility menu',
  share: 'share buttons',
  style: 'styles',
  metadata: 'information for search engines and other machines',
  other: 'something that cannot be told from its code',
} as const;

export const LOAD_NAMES = {
  script: 'a script',
  style: 'styles',
  image: 'an image',
  frame: 'a frame',
  font: 'a font',
  data: 'data',
  hint: 'something in advance',
} as const;
