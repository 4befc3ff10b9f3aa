import { atFoot, inHead, page, type Cause, type CauseKind, type CleanSite } from './cause.js';

const wrong = (name: string, code: string, says: RegExp, more: Partial<Cause> = {}): Cause => ({
  name,
  snippets: [inHead('Extra', code)],
  check: 'changes-page-for-all',
  about: ['Extra'],
  says,
  ...more,
});
const script = (code: string): string => `<script>${code}</script>`;
const clean = (name: string, code: string, include: readonly string[] = []): CleanSite => ({
  name,
  snippets: [inHead('Extra', code, { include })],
});

/** Small additions that reach far. */
export const CHANGES_FOR_ALL: CauseKind = {
  kind: 'changes the page for everybody',
  wrong: [
    wrong('a base', '<base href="https://offers.example/">', /links/),
    wrong('a base with a target', '<base target="_blank">', /links/),
    wrong(
      'a redirect',
      '<meta http-equiv="refresh" content="0; url=https://offers.example/">',
      /another page/,
    ),
    wrong('a reload', '<meta http-equiv="refresh" content="30">', /again and again/),
    wrong('noindex', '<meta name="robots" content="noindex, nofollow">', /search engines/),
    wrong('noindex for one robot', '<meta name="quaybot" content="noindex">', /search engines/),
    wrong('a second title', '<title>Special offers</title>', /second title/),
    wrong(
      'one canonical address for all pages',
      '<link rel="canonical" href="https://www.skerrywick.example/">',
      /are one/,
    ),
    wrong('a viewport', '<meta name="viewport" content="width=device-width, user-scalable=no">', /viewport/),
    wrong('a charset', '<meta charset="windows-1252">', /encoding/),
    wrong('a policy', `<meta http-equiv="Content-Security-Policy" content="script-src 'self'">`, /policy/),
    wrong(
      'a service worker',
      script('navigator.serviceWorker.register("/offers-worker.js");'),
      /service worker/,
    ),
    wrong(
      'a page hidden until a script comes',
      '<style>body { opacity: 0 !important }</style>',
      /hides the whole page/,
    ),
    wrong('a hidden root', '<style>html.wait { visibility: hidden; }</style>', /hides the whole page/),
    wrong(
      'a script that hides the page',
      script('document.documentElement.style.opacity = "0";'),
      /hides the whole page/,
    ),
    wrong(
      'a prototype with a new function',
      script('Array.prototype.last = function () { return this[this.length - 1]; };'),
      /Array\.prototype\.last/,
    ),
    wrong(
      'a prototype changed',
      script('String.prototype.trim = function () { return this; };'),
      /String\.prototype\.trim/,
    ),
    wrong(
      'one handler for the page',
      script('window.onload = function () { window.ready = true; };'),
      /window\.onload/,
    ),
    wrong(
      'fetch replaced',
      script('var old = window.fetch; window.fetch = function () { return old.apply(this, arguments); };'),
      /fetch/,
    ),
    wrong('history wrapped', script('history.pushState = function () {};'), /pushState/),
    {
      ...wrong('a handler that two set', '', /Only one can be set/),
      snippets: [
        inHead('Extra', script('window.onscroll = function () { window.a = 1; };')),
        atFoot('Header', script('window.onscroll = function () { window.b = 1; };')),
      ],
      about: ['Extra', 'Header'],
    },
    {
      ...wrong('the page has its own title', '<title>Special offers</title>', /second/),
      check: 'once-per-page',
      site: { pages: { '/': page('Home') } },
    },
  ],
  clean: [
    clean('a hint', '<link rel="preconnect" href="https://offers.example">'),
    clean('robots may index', '<meta name="robots" content="max-image-preview:large">'),
    clean('one page is kept out', '<meta name="robots" content="noindex">', ['/booking/done']),
    clean(
      'one page has its canonical address',
      '<link rel="canonical" href="https://www.skerrywick.example/fares">',
      ['/fares'],
    ),
    clean(
      'a polyfill looks first',
      script('if (!Array.prototype.at) { Array.prototype.at = function (n) { return this[n]; }; }'),
    ),
    clean(
      'a polyfill keeps what is there',
      script('String.prototype.trim = String.prototype.trim || function () { return this; };'),
    ),
    clean(
      'a style hides a box of its own',
      '<style>.offer { display: none } .offer.open { display: block } body.offer-open { overflow: hidden }</style>',
    ),
    clean('a listener', script('addEventListener("load", function () { window.ready = true; });')),
    clean(
      'a handler of its own element',
      script(
        'var s = document.createElement("script"); s.onload = function () { window.ready = 1; }; s.src = "https://offers.example/o.js"; document.head.appendChild(s);',
      ),
    ),
    {
      name: 'a title in a drawing',
      snippets: [atFoot('Extra', '<svg id="mark" hidden><title>Ferry</title></svg>')],
    },
    clean('a body without margins', '<style>body { margin: 0 } html { opacity: 1 }</style>'),
  ],
};
