import { at, atFoot, inHead, page, type CauseKind } from './cause.js';

const CRATE = '<script async src="https://crateline.example/crate.js?id=CR-20-3"></script>';
const CRATE_FRAME =
  '<noscript><iframe src="https://crateline.example/no-script.html?id=CR-20-3" height="0" width="0"></iframe></noscript>';
const SLOTS = '<script async src="https://slotwell.example/slots.js" data-calendar="SW-2209"></script>';
const MOUNT = (more: string): string =>
  `<script async src="https://slotwell.example/slots.js" ${more}></script>`;
const PAGES = { '/': page('<main id="top">Home</main>'), '/booking': page('<main id="days">Book</main>') };

/** One of several pieces is there, or each stands where the other belongs. */
export const HALF_INSTALLS: CauseKind = {
  kind: 'half an install',
  wrong: [
    {
      name: 'a comment numbers the pieces',
      snippets: [inHead('Booking', `<!-- Step 1 of 2 -->\n${SLOTS}`)],
      check: 'half-install',
      about: ['Booking'],
      says: /1 of 2/,
    },
    {
      name: 'only the second part is there',
      snippets: [atFoot('Booking', `<!-- Slotwell booking, part 2 of 2 -->\n${SLOTS}`)],
      check: 'half-install',
      about: ['Booking'],
    },
    {
      name: 'a comment in a script numbers them',
      snippets: [inHead('Counter', '<script>\n// Snippet 2/2\nwindow.tallyLayer = [];\n</script>')],
      check: 'half-install',
      about: ['Counter'],
    },
    {
      name: 'the provider says step 2',
      snippets: [
        atFoot('Booking', SLOTS, { statement: 'Step 2: paste this code before the closing body tag.' }),
      ],
      check: 'half-install',
      about: ['Booking'],
    },
    {
      name: 'the provider says part 1 of 2',
      snippets: [inHead('Booking', SLOTS, { statement: 'Part 1 of 2. Paste into the head.' })],
      check: 'half-install',
      about: ['Booking'],
    },
    {
      name: 'the provider says "and then paste this"',
      snippets: [
        inHead('Booking', SLOTS, {
          statement:
            'Paste this into the head of your site, and then paste this where the calendar is to show.',
        }),
      ],
      check: 'half-install',
      about: ['Booking'],
    },
    {
      name: 'the provider says "then add the following"',
      snippets: [
        atFoot('Booking', SLOTS, { statement: 'Then add the following just before the closing body tag.' }),
      ],
      check: 'half-install',
      about: ['Booking'],
    },
    {
      name: 'the provider speaks of both pieces',
      snippets: [
        inHead('Booking', SLOTS, {
          statement: 'Both pieces are needed: the first in the head, the other where it shows.',
        }),
      ],
      check: 'half-install',
      about: ['Booking'],
    },
    {
      name: 'a three-piece install has two',
      snippets: [
        {
          name: 'Booking',
          parts: [
            { placement: 'head-end', code: `<!-- Piece 1 of 3 -->${SLOTS}` },
            { placement: 'body-end', code: '<!-- Piece 2 of 3 --><p id="slots-intro">Book here</p>' },
          ],
        },
      ],
      check: 'half-install',
      about: ['Booking'],
      says: /3/,
    },
    {
      name: 'the loader is told to fill what nothing brings',
      snippets: [atFoot('Booking', MOUNT('data-target="#slotwell-days"'))],
      site: { pages: PAGES },
      check: 'element-not-there',
      about: ['Booking'],
      says: /slotwell-days/,
    },
    {
      name: 'a call is told to fill what nothing brings',
      snippets: [
        atFoot(
          'Booking',
          '<script src="https://slotwell.example/slots.js"></script><script>Slotwell.mount("#slotwell-days");</script>',
        ),
      ],
      site: { pages: PAGES },
      check: 'element-not-there',
      about: ['Booking'],
    },
    {
      name: 'settings name a container that nothing brings',
      snippets: [
        atFoot(
          'Booking',
          '<script src="https://slotwell.example/slots.js"></script><script>Slotwell.init({ calendar: "SW-2209", container: "#slotwell-days" });</script>',
        ),
      ],
      site: { pages: PAGES },
      check: 'element-not-there',
      about: ['Booking'],
    },
    {
      name: 'the element is there without its script',
      snippets: [atFoot('Booking', '<div class="slotwell" data-calendar="SW-2209"></div>')],
      check: 'nothing-fills',
      about: ['Booking'],
    },
    {
      name: 'a tag that only a script defines',
      snippets: [atFoot('Booking', '<slotwell-days calendar="SW-2209"></slotwell-days>')],
      check: 'nothing-fills',
      about: ['Booking'],
    },
    {
      name: 'the element’s script is off',
      snippets: [
        atFoot('Booking', '<div id="slotwell-calendar" data-account="SW-2209"></div>'),
        atFoot('Booking script', '<script async src="https://slotwell.example/slots.js"></script>', {
          state: 'off',
        }),
      ],
      check: 'nothing-fills',
      about: ['Booking'],
    },
    {
      name: 'the frame for browsers without scripts is alone',
      snippets: [at('body-start', 'Container', CRATE_FRAME)],
      check: 'second-piece',
      about: ['Container'],
    },
    {
      name: 'the frame is alone and tells no account',
      snippets: [
        at(
          'body-start',
          'Container',
          '<noscript><iframe src="https://crateline.example/off.html"></iframe></noscript>',
        ),
      ],
      check: 'second-piece',
      about: ['Container'],
    },
    {
      name: 'the pieces are swapped',
      snippets: [
        {
          name: 'Container',
          parts: [
            { placement: 'head-start', code: CRATE_FRAME },
            { placement: 'body-start', code: CRATE },
          ],
        },
      ],
      check: 'swapped-pieces',
      about: ['Container'],
      says: /swapped/,
    },
    {
      name: 'the pieces are swapped, as their provider’s words tell',
      snippets: [
        {
          name: 'Booking',
          parts: [
            {
              placement: 'body-end',
              code: SLOTS,
              statement: 'Paste this as high in the head as possible.',
            },
            {
              placement: 'head-start',
              code: '<script>document.documentElement.dataset.days = "14";</script>',
              statement: 'Paste this just above the closing body tag.',
            },
          ],
        },
      ],
      check: 'swapped-pieces',
      about: ['Booking'],
    },
  ],
  clean: [
    {
      name: 'both numbered parts are in one snippet',
      snippets: [
        {
          name: 'Booking',
          parts: [
            { placement: 'head-end', code: `<!-- Part 1 of 2 -->${SLOTS}` },
            { placement: 'body-end', code: '<!-- Part 2 of 2 --><p id="slots">Book here</p>' },
          ],
        },
      ],
    },
    {
      name: 'both were pasted into one box',
      snippets: [
        atFoot(
          'Booking',
          `<!-- Step 1 -->\n<div id="slotwell-days"></div>\n<!-- Step 2: the script -->\n${MOUNT('data-target="#slotwell-days"')}`,
        ),
      ],
    },
    {
      name: 'the second part is another snippet',
      snippets: [
        inHead('Booking', `<!-- Part 1 of 2 -->${SLOTS}`),
        atFoot('Booking place', '<!-- Part 2 of 2 --><div class="slotwell" data-calendar="SW-2209"></div>'),
      ],
    },
    {
      name: 'the words tell where to click before',
      snippets: [
        inHead('Counter', '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>', {
          statement: 'Open the settings of your site, then paste this into the head.',
        }),
        atFoot('Chat', '<script async src="https://parlanook.example/chat.js"></script>', {
          statement: 'Copy the code and then paste it before the closing body tag.',
        }),
      ],
    },
    {
      name: 'step 2 is done at the provider',
      snippets: [
        inHead('Counter', '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>', {
          statement: 'Step 1: paste this into the head. Step 2: press “Check” on our page.',
        }),
      ],
    },
    {
      name: 'the container has both its pieces',
      snippets: [
        {
          name: 'Container',
          parts: [
            { placement: 'head-start', code: CRATE },
            { placement: 'body-start', code: CRATE_FRAME },
          ],
        },
      ],
    },
    {
      name: 'the page has the element to fill',
      snippets: [atFoot('Booking', MOUNT('data-target="#days"'), { include: ['/booking'] })],
      site: { pages: PAGES },
    },
    {
      name: 'the element’s script is in the theme',
      snippets: [atFoot('Booking', '<div class="slotwell" data-calendar="SW-2209"></div>')],
      site: {
        pages: { '/': page('Home', '<script async src="https://slotwell.example/slots.js"></script>') },
      },
    },
    {
      name: 'an empty element is only a mark',
      snippets: [atFoot('Mark', '<div id="top-of-page" class="spacer"></div>')],
    },
    {
      name: 'an instruction of one piece with the word step',
      snippets: [
        inHead(
          'Counter',
          '<!-- One step to go: publish --><script async src="https://tallymast.example/c.js"></script>',
        ),
      ],
    },
  ],
};
