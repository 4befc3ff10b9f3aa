import { exampleFile } from '@pragmatica/core';
import { inHead, page, type Cause, type CauseKind } from './cause.js';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
const inTheme = (name: string, code: string, says: RegExp): Cause => ({
  name,
  snippets: [inHead('Visit counter', COUNTER)],
  site: { pages: { '/': page('<p>Home</p>', code) } },
  check: 'hard-coded',
  about: ['Visit counter'],
  says,
});
const CRATE = '<script async src="https://crateline.example/crate.js?id=CR-20-3"></script>';
const crate = (asks: readonly string[]) => [
  exampleFile('https://crateline.example/crate.js?id=CR-20-3', { asks }),
];

/** The site has it by itself, in one shape or another. */
export const STANDS_ALREADY: CauseKind = {
  kind: 'stands in the page already',
  wrong: [
    inTheme('the theme has the same code', COUNTER, /hard-coded/),
    inTheme(
      'the theme has it in another writing',
      "<SCRIPT  src='//tallymast.example/count.js?id=TM-7731'\n async></SCRIPT>",
      /site itself/,
    ),
    inTheme(
      'the theme has the account by another loader',
      `<script>var _tm = _tm || []; _tm.push(['setAccount', 'TM-7731']);</script><script async src="https://tallymast.example/old.js?id=TM-7731"></script>`,
      /same account/,
    ),
    inTheme(
      'the theme loads it by a script',
      `<script>(function (d) { var s = d.createElement('script'); s.src = 'https://tallymast.example/count.js?id=TM-7731'; d.head.appendChild(s); })(document);</script>`,
      /site itself|same account|loads/,
    ),
    {
      name: 'a container of ours brings it',
      snippets: [inHead('Container', CRATE), inHead('Visit counter', COUNTER)],
      site: { files: crate(['script tallymast.example']) },
      check: 'hard-coded',
      about: ['Visit counter', 'Container'],
      says: /crate\.js loads tallymast\.example/,
    },
    {
      name: 'a container in the theme brings it',
      snippets: [inHead('Visit counter', COUNTER)],
      site: {
        pages: { '/': page('<p>Home</p>', CRATE) },
        files: crate(['script tallymast.example', 'image tallymast.example']),
      },
      check: 'hard-coded',
      about: ['Visit counter'],
      says: /may run twice/,
    },
  ],
  clean: [
    {
      name: 'a container only sends there',
      snippets: [inHead('Container', CRATE), inHead('Visit counter', COUNTER)],
      site: { files: crate(['connect tallymast.example']) },
    },
    {
      name: 'a loader fetches the rest of itself',
      snippets: [inHead('Visit counter', COUNTER)],
      site: {
        files: [
          exampleFile('https://tallymast.example/count.js?id=TM-7731', {
            asks: ['script cdn.tallymast.example'],
          }),
        ],
      },
    },
    {
      name: 'a container runs on other pages',
      snippets: [
        inHead('Container', CRATE, { include: ['/news'] }),
        inHead('Visit counter', COUNTER, { include: ['/fares'] }),
      ],
      site: { files: crate(['script tallymast.example']) },
    },
    {
      name: 'the theme has it on other pages',
      snippets: [inHead('Visit counter', COUNTER, { include: ['/fares'] })],
      site: { pages: { '/fares': page('<p>Fares</p>'), '/news': page('<p>News</p>', COUNTER) } },
    },
    {
      name: 'the theme loads something else of the provider',
      snippets: [inHead('Visit counter', COUNTER)],
      site: {
        pages: {
          '/': page('<p>Home</p>', '<link rel="stylesheet" href="https://tallymast.example/button.css">'),
        },
      },
    },
  ],
};
