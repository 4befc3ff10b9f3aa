import { difference, summaryLine, type RecipeLink, type Snapshot } from '@pragmatica/core';
import { expect } from 'chai';
import { part, set, snippet } from '../support/sets.js';

const A = snippet('a');
const site = (whole: Snapshot, change: Partial<Snapshot['site']>): Snapshot => ({
  ...whole,
  site: { ...whole.site, ...change },
});
const link = (key: string, version: number): { recipe: RecipeLink } => ({
  recipe: { key, version, fields: {} },
});

type Told = [kind: string, snippet: string, visible: boolean, message: string];

/** Every kind of change by itself: what is said of it, of which snippet, and whether visitors notice. */
const CASES: readonly (readonly [name: string, from: Snapshot, to: Snapshot, told: readonly Told[]])[] = [
  [
    'new, off',
    set(),
    set(snippet('a', { state: 'off' })),
    [['added', 'a', false, '“A” is new: at the end of the body, on all pages, but switched off.']],
  ],
  [
    'new, archived',
    set(),
    set(snippet('a', { state: 'archived' })),
    [
      [
        'added',
        'a',
        false,
        '“A” is new: at the end of the body, on all pages, but switched off and archived.',
      ],
    ],
  ],
  [
    'new, two parts',
    set(),
    set(snippet('a', { parts: [part('head-end'), part('body-end')] })),
    [['added', 'a', true, '“A” is new: at the end of the head and at the end of the body, on all pages.']],
  ],
  [
    'new, empty',
    set(),
    set(snippet('a', { parts: [] })),
    [['added', 'a', true, '“A” is new: no code yet, on all pages.']],
  ],
  ['gone, on', set(A), set(), [['removed', 'a', true, '“A” is gone.']]],
  ['gone, off', set(snippet('a', { state: 'off' })), set(), [['removed', 'a', false, '“A” is gone.']]],
  ['on', set(snippet('a', { state: 'off' })), set(A), [['state', 'a', true, '“A” is switched on.']]],
  [
    'on from the archive',
    set(snippet('a', { state: 'archived' })),
    set(A),
    [['state', 'a', true, '“A” is restored from the archive and switched on.']],
  ],
  ['off', set(A), set(snippet('a', { state: 'off' })), [['state', 'a', true, '“A” is switched off.']]],
  [
    'off from the archive',
    set(snippet('a', { state: 'archived' })),
    set(snippet('a', { state: 'off' })),
    [['state', 'a', false, '“A” is restored from the archive, and still off.']],
  ],
  [
    'archived',
    set(A),
    set(snippet('a', { state: 'archived' })),
    [['state', 'a', true, '“A” is archived and no longer runs.']],
  ],
  [
    'another name',
    set(A),
    set(snippet('a', { name: 'B' })),
    [['details', 'a', false, '“B” was called “A” before.']],
  ],
  [
    'pages',
    set(A),
    set(snippet('a', { pages: { include: ['/x'], exclude: [] } })),
    [['pages', 'a', true, '“A” now runs on /x; before, on all pages.']],
  ],
  [
    'pages of one that is off',
    set(snippet('a', { state: 'off' })),
    set(snippet('a', { state: 'off', pages: { include: ['/x'], exclude: [] } })),
    [['pages', 'a', false, '“A” now runs on /x; before, on all pages.']],
  ],
  [
    'limits',
    set(A),
    set(snippet('a', { limits: { environment: 'staging' } })),
    [['reach', 'a', true, '“A” now runs only on staging; before, always and for everybody.']],
  ],
  [
    'limits gone',
    set(snippet('a', { limits: { environment: 'staging' } })),
    set(A),
    [['reach', 'a', true, '“A” now runs always and for everybody; before, only on staging.']],
  ],
  [
    'another placement',
    set(A),
    set(snippet('a', { parts: [part('head-end')] })),
    [
      [
        'placement',
        'a',
        true,
        '“A” moves: its code is now at the end of the head; before, at the end of the body.',
      ],
    ],
  ],
  [
    'second part moves',
    set(snippet('a', { parts: [part('head-end'), part('body-end')] })),
    set(snippet('a', { parts: [part('head-end'), part('body-start')] })),
    [
      [
        'placement',
        'a',
        true,
        '“A” moves: part 2 is now at the start of the body; before, at the end of the body.',
      ],
    ],
  ],
  [
    'one part more',
    set(A),
    set(snippet('a', { parts: [part('body-end'), part('head-end')] })),
    [['parts', 'a', true, '“A” has a new part, at the end of the head.']],
  ],
  [
    'one part fewer',
    set(snippet('a', { parts: [part('body-end'), part('head-end')] })),
    set(A),
    [['parts', 'a', true, '“A” no longer has the part at the end of the head.']],
  ],
  [
    'line added',
    set(snippet('a', { parts: [part('body-end', 0, 'a\nb')] })),
    set(snippet('a', { parts: [part('body-end', 0, 'a\nb\nc')] })),
    [['code', 'a', true, '“A” has new code: 1 line added.']],
  ],
  [
    'lines removed',
    set(snippet('a', { parts: [part('body-end', 0, 'a\nb\nc')] })),
    set(snippet('a', { parts: [part('body-end', 0, 'a')] })),
    [['code', 'a', true, '“A” has new code: 2 lines removed.']],
  ],
  [
    'added and removed',
    set(snippet('a', { parts: [part('body-end', 0, 'a\nb\nc')] })),
    set(snippet('a', { parts: [part('body-end', 0, 'a\nx')] })),
    [['code', 'a', true, '“A” has new code: 1 line added, 2 lines removed.']],
  ],
  [
    'changed in second',
    set(snippet('a', { parts: [part('head-end'), part('body-end', 0, 'a')] })),
    set(snippet('a', { parts: [part('head-end'), part('body-end', 0, 'b')] })),
    [['code', 'a', true, '“A” has new code in part 2: 1 line changed.']],
  ],
  [
    'other line ends',
    set(snippet('a', { parts: [part('body-end', 0, 'a\nb')] })),
    set(snippet('a', { parts: [part('body-end', 0, 'b\r\na')] })),
    [['code', 'a', true, '“A” has new code: lines in a different order, or different line ends.']],
  ],
  [
    'code of one that is off',
    set(snippet('a', { state: 'off', parts: [part('body-end', 0, 'a')] })),
    set(snippet('a', { state: 'off', parts: [part('body-end', 0, 'b')] })),
    [['code', 'a', false, '“A” has new code: 1 line changed.']],
  ],
  [
    'details',
    set(A),
    set(snippet('a', { purpose: 'p', provider: 'q', note: 'n', needs: ['b'] })),
    [
      [
        'details',
        'a',
        false,
        '“A” has a new purpose, provider, note and list of what must come first; visitors notice nothing.',
      ],
    ],
  ],
  [
    'statement',
    set(A),
    set(snippet('a', { parts: [{ ...part('body-end'), statement: 'high up' }] })),
    [['details', 'a', false, '“A” has a new word of the provider; visitors notice nothing.']],
  ],
  [
    'follows',
    set(A),
    set(snippet('a', link('r', 1))),
    [['details', 'a', false, '“A” now follows the recipe r.']],
  ],
  [
    'next version',
    set(snippet('a', link('r', 1))),
    set(snippet('a', link('r', 2))),
    [['details', 'a', false, '“A” follows version 2 of its recipe; before, version 1.']],
  ],
  [
    'another recipe',
    set(snippet('a', link('r', 1))),
    set(snippet('a', link('q', 1))),
    [['details', 'a', false, '“A” now follows the recipe q.']],
  ],
  [
    'follows no longer',
    set(snippet('a', link('r', 1))),
    set(A),
    [['details', 'a', false, '“A” no longer follows the recipe r.']],
  ],
  [
    'order',
    set(snippet('a'), snippet('b', { parts: [part('body-end', 1)] })),
    set(snippet('a', { parts: [part('body-end', 1)] }), snippet('b', { parts: [part('body-end', 0)] })),
    [['order', 'b', true, '“B” now comes right before “A” at the end of the body.']],
  ],
  [
    'order of one that is off',
    set(
      snippet('a'),
      snippet('b', { state: 'off', parts: [part('body-end', 1)] }),
      snippet('c', { parts: [part('body-end', 2)] }),
    ),
    set(
      snippet('a', { parts: [part('body-end', 0)] }),
      snippet('b', { state: 'off', parts: [part('body-end', 3)] }),
      snippet('c', { parts: [part('body-end', 2)] }),
    ),
    [['order', 'c', true, '“C” now comes right before “B” at the end of the body.']],
  ],
  [
    'group new',
    set(),
    site(set(), { pageGroups: [{ key: 'g', name: 'G', patterns: ['/a', '/b'] }] }),
    [['site', '', true, 'The page group “G” is new: /a and /b.']],
  ],
  [
    'group changed',
    site(set(), { pageGroups: [{ key: 'g', name: 'G', patterns: ['/a'] }] }),
    site(set(), { pageGroups: [{ key: 'g', name: 'G', patterns: ['/b'] }] }),
    [['site', '', true, 'The page group “G” now holds /b; before, /a.']],
  ],
  [
    'group same',
    site(set(), { pageGroups: [{ key: 'g', name: 'G', patterns: ['/a'] }] }),
    site(set(), { pageGroups: [{ key: 'g', name: 'G', patterns: ['/a'] }] }),
    [],
  ],
  [
    'group gone',
    site(set(), { pageGroups: [{ key: 'g', name: 'G', patterns: ['/a'] }] }),
    set(),
    [['site', '', true, 'The page group “G” is gone.']],
  ],
  [
    'zone',
    set(),
    site(set(), { timeZone: 'Europe/Dublin' }),
    [['site', '', true, 'Hours are those of Europe/Dublin; before, of UTC.']],
  ],
  [
    'consent',
    set(),
    site(set(), { consent: { categories: [], cookie: 'c', format: { kind: 'list' } } }),
    [['site', '', true, 'Consent is defined or read differently.']],
  ],
  [
    'field new',
    set(),
    site(set(), { fields: [{ name: 'f', type: 'id', label: 'F', value: '1' }] }),
    [['field', '', false, 'The field “f” is new: “1”.']],
  ],
  [
    'field changed, unused',
    site(set(), { fields: [{ name: 'f', type: 'id', label: 'F', value: '1' }] }),
    site(set(), { fields: [{ name: 'f', type: 'id', label: 'F', value: '2', staging: '3' }] }),
    [
      ['field', '', false, 'The field “f” is now “3” on staging; before, “1”.'],
      ['field', '', false, 'The field “f” is now “2” on live; before, “1”.'],
    ],
  ],
  [
    'field emptied, used',
    site(set(snippet('a', { parts: [part('body-end', 0, '<i title="@{f}"></i>')] })), {
      fields: [{ name: 'f', type: 'id', label: 'F', value: '1' }],
    }),
    site(set(snippet('a', { parts: [part('body-end', 0, '<i title="@{f}"></i>')] })), {
      fields: [{ name: 'f', type: 'id', label: 'F' }],
    }),
    [
      ['field', '', true, 'The field “f” is now empty on staging; before, “1”.'],
      ['field', '', true, 'The field “f” is now empty on live; before, “1”.'],
    ],
  ],
  [
    'field changed, used by one that is off',
    site(set(snippet('a', { state: 'off', parts: [part('body-end', 0, '<i title="@{f}"></i>')] })), {
      fields: [{ name: 'f', type: 'id', label: 'F', value: '1' }],
    }),
    site(set(snippet('a', { state: 'off', parts: [part('body-end', 0, '<i title="@{f}"></i>')] })), {
      fields: [{ name: 'f', type: 'id', label: 'F', value: '' }],
    }),
    [
      ['field', '', false, 'The field “f” is now empty on staging; before, “1”.'],
      ['field', '', false, 'The field “f” is now empty on live; before, “1”.'],
    ],
  ],
  [
    'field gone',
    site(set(), { fields: [{ name: 'f', type: 'id', label: 'F', value: '1' }] }),
    set(),
    [['field', '', false, 'The field “f” is gone.']],
  ],
];

describe('each change between two sets', () => {
  for (const [name, from, to, told] of CASES)
    it(`is told as what it is: ${name}`, () => {
      const found = difference(from, to);
      expect(
        found.map(({ kind, snippet: key, visible, message }) => [kind, key, visible, message]),
      ).to.deep.equal(told);
    });
});

describe('the line of a code that tells most', () => {
  for (const [code, line] of [
    ['<script>\n\n  // hello\nfoo()\n</script>', '// hello'],
    ['<!-- x -->\n<script>\n', '<!-- x -->'],
    ['<!-- x -->\n<b>y</b>', '<b>y</b>'],
    ['', ''],
    ['  <b>x</b>  \n', '<b>x</b>'],
    ['</script>', '</script>'],
  ] as const)
    it(`is ${JSON.stringify(line)} of ${JSON.stringify(code)}`, () =>
      expect(summaryLine(code)).to.equal(line));
});
