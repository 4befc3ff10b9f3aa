import type { ExampleSnippet, Limits } from '@pragmatica/core';
import { atFoot, type Cause, type CauseKind, type CleanSite } from './cause.js';

const box = (name: string, id: string, css: string, limits?: Limits): ExampleSnippet =>
  atFoot(
    name,
    `<style>${css.replaceAll('&', `#${id}`)}</style><div id="${id}">Hello</div>`,
    limits ? { limits } : {},
  );
const CORNER = '& { position: fixed; right: 20px; bottom: 20px; width: 60px; height: 60px }';
const chat = box('Harbour chat', 'chat', CORNER);

const wrong = (name: string, css: string, first = CORNER, says = /bottom right|phones/): Cause => ({
  name,
  snippets: [box('Harbour chat', 'chat', first), box('Summer offer', 'offer', css)],
  check: 'same-corner',
  about: ['Harbour chat', 'Summer offer'],
  says,
});
const clean = (name: string, css: string, first = CORNER): CleanSite => ({
  name,
  snippets: [box('Harbour chat', 'chat', first), box('Summer offer', 'offer', css)],
});

/** Boxes that float, as style sheets write them. */
export const CORNERS: CauseKind = {
  kind: 'corners',
  wrong: [
    wrong('both name their edges', '& { position: fixed; bottom: 0; right: 0 }'),
    wrong('one uses inset', '& { position: fixed; inset: auto 16px 16px auto }'),
    wrong('one uses logical edges', '& { position: fixed; inset-block-end: 1rem; inset-inline-end: 1rem }'),
    wrong(
      'one uses logical shorthands',
      '& { position: fixed; inset-block: auto 1rem; inset-inline: auto 1rem }',
    ),
    wrong(
      'one uses custom properties',
      ':root { --gap: 18px; --where: fixed } & { position: var(--where); bottom: var(--gap); right: var(--gap, 10px) }',
    ),
    wrong(
      'one is moved a little',
      '& { position: fixed; bottom: 24px; right: 24px; transform: translateY(-4px) }',
    ),
    wrong(
      'they meet on phones only',
      '& { position: fixed; bottom: 20px; left: 10px; width: 340px; height: 80px }',
      '& { position: fixed; bottom: 20px; right: 10px; width: 300px; height: 60px }',
      /phones/,
    ),
    wrong(
      'one is there on phones only',
      '@media (max-width: 480px) { & { position: fixed; bottom: 0; right: 0 } }',
      CORNER,
      /phones/,
    ),
    wrong(
      'one lies high above',
      '& { position: fixed; bottom: 20px; right: 20px; z-index: 2147483647 }',
      CORNER.replace('}', '; z-index: 10 }'),
      /“Summer offer” is on top/,
    ),
    wrong(
      'the box is made by a style attribute',
      '& { position: fixed; inset: auto 0 0 auto; width: 100px }',
    ),
    {
      name: 'their hours overlap a little',
      snippets: [
        box('Harbour chat', 'chat', CORNER, { hours: { weekly: { mon: [{ from: '09:00', to: '17:00' }] } } }),
        box('Summer offer', 'offer', CORNER, {
          hours: { weekly: { mon: [{ from: '16:00', to: '20:00' }] } },
        }),
      ],
      site: { timeZone: 'Europe/London' },
      check: 'same-corner',
      about: ['Harbour chat', 'Summer offer'],
    },
  ],
  clean: [
    clean(
      'one stands above the other',
      '& { position: fixed; right: 20px; bottom: 100px; width: 60px; height: 60px }',
    ),
    clean(
      'one stands beside the other',
      '& { position: fixed; right: 100px; bottom: 20px; width: 60px; height: 60px }',
    ),
    clean(
      'one has another corner',
      '& { position: fixed; left: 20px; bottom: 20px; width: 60px; height: 60px }',
    ),
    clean(
      'one is in the middle of an edge',
      '& { position: fixed; left: 50%; bottom: 20px; transform: translateX(-50%) }',
    ),
    clean('one is halfway up', '& { position: fixed; right: 0; top: 50% }'),
    clean(
      'one waits outside of the window',
      '& { position: fixed; bottom: 20px; right: -320px; width: 320px }',
    ),
    clean('one is moved out', '& { position: fixed; bottom: 0; right: 0; transform: translateX(110%) }'),
    clean('one is a bar of the whole width', '& { position: fixed; left: 0; right: 0; bottom: 0 }'),
    clean(
      'one is for phones and the other for wide windows',
      '@media (max-width: 599px) { & { position: fixed; bottom: 0; right: 0 } }',
      `@media (min-width: 600px) { ${CORNER} }`,
    ),
    clean(
      'one is hidden on phones, where the other is',
      '@media (max-width: 599px) { & { position: fixed; bottom: 0; right: 0 } }',
      `${CORNER} @media (max-width: 599px) { & { display: none } }`,
    ),
    {
      name: 'they are there at different hours',
      snippets: [
        box('Harbour chat', 'chat', CORNER, { hours: { weekly: { mon: [{ from: '09:00', to: '17:00' }] } } }),
        box('Summer offer', 'offer', CORNER, {
          hours: { weekly: { mon: [{ from: '17:00', to: '20:00' }] } },
        }),
      ],
      site: { timeZone: 'Europe/London' },
    },
    {
      name: 'one is for first-time visitors and the other for those who return',
      snippets: [
        box('Harbour chat', 'chat', CORNER, { visitor: { who: 'first' } }),
        box('Summer offer', 'offer', CORNER, { visitor: { who: 'returning' } }),
      ],
    },
    {
      name: 'one is for phones and the other for desktops, by reach',
      snippets: [
        box('Harbour chat', 'chat', CORNER, { devices: ['phone'] }),
        box('Summer offer', 'offer', CORNER, { devices: ['desktop'] }),
      ],
    },
    { name: 'there is only one', snippets: [chat] },
  ],
};
