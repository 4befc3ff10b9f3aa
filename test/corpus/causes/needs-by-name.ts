import { atFoot, inHead, page, type CauseKind } from './cause.js';

const SLIDES = '<script src="https://files.example/lib/slidewell-2.4.1.min.js"></script>';
const START = "<script>Slidewell.start('.quay-pictures');</script>";
const WORKS = '<p>Timetable</p>';

/** A library and what needs it are told together only by what the file is called. */
export const NEEDS_BY_NAME: CauseKind = {
  kind: 'needs that only names tell',
  wrong: [
    {
      name: 'the library comes later',
      snippets: [inHead('Pictures', START), atFoot('Slide library', SLIDES)],
      check: 'used-before-defined',
      about: ['Pictures', 'Slide library'],
      says: /Slide library/,
    },
    {
      name: 'the library is off',
      snippets: [inHead('Slide library', SLIDES, { state: 'off' }), atFoot('Pictures', START)],
      check: 'needs-what-is-off',
      about: ['Pictures', 'Slide library'],
      says: /switched off/,
    },
    {
      name: 'the library is archived',
      snippets: [inHead('Slide library', SLIDES, { state: 'archived' }), atFoot('Pictures', START)],
      check: 'needs-what-is-off',
      about: ['Pictures', 'Slide library'],
      says: /archived/,
    },
    {
      name: 'the library is fetched at any time',
      snippets: [
        inHead('Slide library', SLIDES.replace('<script', '<script async')),
        atFoot('Pictures', START),
      ],
      check: 'used-before-defined',
      about: ['Pictures', 'Slide library'],
      says: /may run before/,
    },
    {
      name: 'the library is deferred',
      snippets: [
        inHead('Slide library', SLIDES.replace('<script', '<script defer')),
        atFoot('Pictures', START),
      ],
      check: 'used-before-defined',
      about: ['Pictures', 'Slide library'],
      says: /not ready until later/,
    },
    {
      name: 'the library runs on other pages',
      snippets: [
        inHead('Slide library', SLIDES, { include: ['/fares'] }),
        atFoot('Pictures', START, { include: ['/fares', '/islands'] }),
      ],
      check: 'needs-what-is-off',
      about: ['Pictures', 'Slide library'],
      says: /\/islands/,
    },
    {
      name: 'the library is held back from phones',
      snippets: [
        inHead('Slide library', SLIDES, { limits: { devices: ['desktop'] } }),
        atFoot('Pictures', START),
      ],
      check: 'needs-what-is-off',
      about: ['Pictures', 'Slide library'],
    },
    {
      name: 'a package of a shared host, by its folder',
      snippets: [
        inHead('Map', "<script>new TideMap('#map');</script>"),
        atFoot(
          'Map library',
          '<script src="https://shared.example/npm/tide-map@3.1.0/dist/index.js"></script>',
        ),
      ],
      check: 'used-before-defined',
      about: ['Map', 'Map library'],
    },
    {
      name: 'a scoped package',
      snippets: [
        inHead('Map', "<script>tidemap.draw('#map');</script>"),
        atFoot(
          'Map library',
          '<script src="https://shared.example/npm/@tidemap/web@3/index.umd.js"></script>',
        ),
      ],
      check: 'used-before-defined',
      about: ['Map', 'Map library'],
    },
    {
      name: 'the provider’s own name',
      snippets: [
        inHead('Fares event', "<script>Parlanook.open('fares');</script>"),
        atFoot('Harbour chat', '<script src="https://cdn.parlanook.example/v2/loader.js"></script>'),
      ],
      check: 'used-before-defined',
      about: ['Fares event', 'Harbour chat'],
    },
    {
      name: 'a name with what says that it is an interface',
      snippets: [
        inHead('Opening', '<script>ParlanookAPI.open();</script>'),
        atFoot('Harbour chat', '<script src="https://cdn.parlanook.example/v2/loader.js"></script>'),
      ],
      check: 'used-before-defined',
      about: ['Opening', 'Harbour chat'],
    },
    {
      name: 'its own file, fetched at any time',
      snippets: [inHead('Pictures', `${SLIDES.replace('<script', '<script async')}\n${START}`)],
      check: 'used-before-defined',
      about: ['Pictures'],
      says: /before its own file arrives/,
    },
    {
      name: 'its own file, deferred',
      snippets: [inHead('Pictures', `${SLIDES.replace('<script', '<script defer')}\n${START}`)],
      check: 'used-before-defined',
      about: ['Pictures'],
      says: /before its own file runs/,
    },
    {
      name: 'its own file, below',
      snippets: [inHead('Pictures', `${START}\n${SLIDES}`)],
      check: 'used-before-defined',
      about: ['Pictures'],
      says: /above the file/,
    },
    {
      name: 'the code loads something else itself',
      snippets: [
        inHead('Pictures', `<script src="https://tallymast.example/count.js"></script>${START}`),
        atFoot('Slide library', SLIDES),
      ],
      check: 'used-before-defined',
      about: ['Pictures', 'Slide library'],
    },
    {
      name: 'two files whose code each needs the other',
      snippets: [
        inHead('Pictures', `<script>TideMap.frame('#a');</script>${SLIDES}`),
        inHead(
          'Map',
          `<script>Slidewell.frame('#b');</script><script src="https://files.example/tide-map.js"></script>`,
        ),
      ],
      check: 'order-cycle',
      about: ['Pictures', 'Map'],
      also: ['used-before-defined'],
    },
    {
      name: 'the theme’s library comes further down',
      snippets: [inHead('Pictures', START)],
      site: { pages: { '/': page(WORKS + SLIDES) } },
      check: 'page-brings-later',
      about: ['Pictures'],
      says: /slidewell/,
    },
    {
      name: 'the theme’s library is deferred',
      snippets: [atFoot('Pictures', START)],
      site: { pages: { '/': page(WORKS, SLIDES.replace('<script', '<script defer')) } },
      check: 'page-brings-later',
      about: ['Pictures'],
    },
  ],
  clean: [
    {
      name: 'the library comes first',
      snippets: [inHead('Slide library', SLIDES), atFoot('Pictures', START)],
    },
    {
      name: 'the code waits for the page, the library is deferred',
      snippets: [
        inHead('Slide library', SLIDES.replace('<script', '<script defer')),
        atFoot(
          'Pictures',
          "<script>addEventListener('load', function () { Slidewell.start('.quay-pictures'); });</script>",
        ),
      ],
    },
    {
      name: 'the code looks first',
      snippets: [
        inHead('Pictures', "<script>if (window.Slidewell) Slidewell.start('.quay-pictures');</script>"),
        atFoot('Slide library', SLIDES),
      ],
    },
    {
      name: 'a queue stands in for the file',
      snippets: [
        inHead(
          'Harbour chat',
          '<script>window.parlanook = window.parlanook || function () { (parlanook.q = parlanook.q || []).push(arguments); }; parlanook("open");</script><script async src="https://cdn.parlanook.example/parlanook.js"></script>',
        ),
      ],
    },
    {
      name: 'the theme has the library',
      snippets: [atFoot('Pictures', START)],
      site: { pages: { '/': page(WORKS, SLIDES) } },
    },
    {
      name: 'a second copy for other pages',
      snippets: [
        inHead('Slide library', SLIDES, { include: ['/fares'] }),
        inHead('Slide library of the islands', SLIDES, { include: ['/islands'] }),
        atFoot('Pictures', START, { include: ['/fares', '/islands'] }),
      ],
    },
    {
      name: 'a name that only looks like a folder',
      snippets: [
        inHead('Theme', '<script>var harbour = { open: true }; harbour.open = false;</script>'),
        atFoot('Menu', '<script src="https://files.example/themes/harbour/js/menu.js"></script>'),
      ],
    },
  ],
};
