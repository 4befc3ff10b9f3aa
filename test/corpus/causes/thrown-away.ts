import { at, atFoot, inHead, page, type CauseKind } from './cause.js';

const FILLS = inHead(
  'Container',
  '<script>window.tallyLayer = window.tallyLayer || []; tallyLayer.push({ event: "start" });</script>',
);
const FUNCTION = inHead(
  'Counter',
  '<script>window.tally = window.tally || function () { (tally.q = tally.q || []).push(arguments); }; tally("create", "TM-7731");</script><script async src="https://tallymast.example/t.js"></script>',
);
const later = (code: string) => atFoot('Fares event', `<script>${code}</script>`);
const wrong = (name: string, code: string, first = FILLS) => ({
  name,
  snippets: [first, later(code)],
  check: 'thrown-away',
  about: [first.name, 'Fares event'],
});

/** What one snippet has filled, another replaces. */
export const THROWN_AWAY: CauseKind = {
  kind: 'a queue thrown away',
  wrong: [
    wrong('window.q = []', 'window.tallyLayer = []; tallyLayer.push({ event: "fares" });'),
    wrong('var q = []', 'var tallyLayer = []; tallyLayer.push({ event: "fares" });'),
    wrong('a bare name is given a new list', 'tallyLayer = [{ event: "fares" }];'),
    wrong(
      'window["q"] = new Array()',
      'window["tallyLayer"] = new Array(); tallyLayer.push({ event: "fares" });',
    ),
    wrong('self.q = []', 'self.tallyLayer = [];'),
    wrong('q.length = 0', 'tallyLayer.length = 0; tallyLayer.push({ event: "fares" });'),
    wrong('q.splice(0)', 'tallyLayer.splice(0); tallyLayer.push({ event: "fares" });'),
    wrong('a new object in place of a queue', 'window.tally = {}; tally.page = "fares";', FUNCTION),
    wrong(
      'settings are written anew',
      'window.parlanook = { language: "en" };',
      inHead('Harbour chat', '<script>window.parlanook = { room: "harbour" };</script>'),
    ),
    wrong(
      'a loader’s function does it',
      '(function (w, n) { w[n] = []; w[n].push({ event: "fares" }); })(window, "tallyLayer");',
    ),
    {
      name: 'two elements of the page, whichever comes first',
      snippets: [
        at({ anchor: 'top', side: 'inside' }, 'Container', FILLS.parts[0]!.code),
        at({ anchor: 'news', side: 'inside' }, 'Fares event', '<script>tallyLayer = [];</script>'),
      ],
      check: 'thrown-away',
      about: ['Container', 'Fares event'],
      says: /may overwrite/,
    },
    {
      name: 'the theme fills it before',
      snippets: [later('window.tallyLayer = []; tallyLayer.push({ event: "fares" });')],
      site: {
        pages: {
          '/': page(
            'Home',
            '<script>window.tallyLayer = window.tallyLayer || []; tallyLayer.push({ page: "home" });</script>',
          ),
        },
      },
      check: 'thrown-away',
      about: ['Fares event'],
      says: /the page/,
    },
  ],
  clean: [
    {
      name: 'it keeps what is there',
      snippets: [
        FILLS,
        later('window.tallyLayer = window.tallyLayer || []; tallyLayer.push({ event: "fares" });'),
      ],
    },
    {
      name: 'it keeps what is there by ??=',
      snippets: [FILLS, later('window.tallyLayer ??= []; tallyLayer.push({ event: "fares" });')],
    },
    {
      name: 'it looks first',
      snippets: [
        FILLS,
        later('if (!window.tallyLayer) { window.tallyLayer = []; } tallyLayer.push({ event: "fares" });'),
      ],
    },
    {
      name: 'it adds to a copy',
      snippets: [FILLS, later('window.tallyLayer = [{ event: "fares" }].concat(window.tallyLayer);')],
    },
    {
      name: 'it spreads what is there',
      snippets: [
        inHead('Chat', '<script>window.parlanook = { room: "harbour" };</script>'),
        later('window.parlanook = { ...window.parlanook, language: "en" };'),
      ],
    },
    {
      name: 'it begins the list before anybody else',
      snippets: [
        inHead('Page data', '<script>window.tallyLayer = [{ page: "fares" }];</script>'),
        { ...FILLS, parts: [{ ...FILLS.parts[0]!, placement: 'body-start' as const }] },
      ],
    },
    {
      name: 'each has its own pages',
      snippets: [
        { ...FILLS, include: ['/news'] },
        { ...later('window.tallyLayer = [];'), include: ['/fares'] },
      ],
    },
    {
      name: 'a list of its own inside a function',
      snippets: [FILLS, later('(function () { var tallyLayer = []; tallyLayer.push(1); })();')],
    },
  ],
};
