import { atFoot, inHead, type CauseKind } from './cause.js';

const LOADER = '<script async src="https://tallymast.example/t.js?id=TM-7731"></script>';
const QUEUE = 'window.tally = window.tally || function () { (tally.q = tally.q || []).push(arguments); };';
const other = (code: string, name = 'Statistics') => inHead(name, code);

/** One account twice, written in two ways. */
export const SAME_ACCOUNTS: CauseKind = {
  kind: 'the same account in another shape',
  wrong: [
    [
      'in an array of commands',
      `<script>var _tmq = _tmq || []; _tmq.push(["start"], ["setAccount", "TM-7731"]);</script><script async src="https://ssl.tallymast.example/tm.js"></script>`,
    ],
    ['in a path', '<script async src="https://tallymast.example/sites/TM-7731/counter.js"></script>'],
    [
      'as a token in an attribute',
      '<script async src="https://cdn.tallymast.example/c.js" data-token="TM-7731"></script>',
    ],
    [
      'as an attribute without data-',
      '<script async src="https://cdn.tallymast.example/c.js" site-id="TM-7731"></script>',
    ],
    [
      'in an object called property',
      '<script>window.tm = { property: "TM-7731" };</script><script async src="https://cdn.tallymast.example/c.js"></script>',
    ],
    [
      'in an object in an object',
      '<script>window.tm = { options: { workspace: { ref: "TM-7731" } } };</script><script async src="https://cdn.tallymast.example/c.js"></script>',
    ],
    [
      'under a query name of one letter',
      '<script async src="https://cdn.tallymast.example/c.js?k=TM-7731"></script>',
    ],
    [
      'in a function that makes the loader',
      `<script>(function (d, s, a) { var j = d.createElement(s); j.async = 1; j.src = 'https://cdn.tallymast.example/' + a + '/c.js'; d.head.appendChild(j); })(document, 'script', 'TM-7731');</script>`,
    ],
    [
      'in a name that is put together',
      '<script>var t = "TM"; var n = "TM-7731"; var s = document.createElement("script"); s.src = "https://cdn.tallymast.example/c.js?acc=" + n; document.head.appendChild(s);</script>',
    ],
  ]
    .map(([name, code]) => ({
      name: `the second is ${name}`,
      snippets: [inHead('Counter', LOADER), other(code!)],
      check: 'same-account',
      about: ['Counter', 'Statistics'],
      says: /TM-7731/,
    }))
    .concat([
      {
        name: 'a start is pasted a second time, without the loader',
        snippets: [
          inHead(
            'Counter',
            `<script>${QUEUE} tally("create", "TM-7731");</script><script async src="https://tallymast.example/t.js"></script>`,
          ),
          other('<script>tally("create", "TM-7731");</script>'),
        ],
        check: 'same-account',
        about: ['Counter', 'Statistics'],
        says: /TM-7731/,
      },
      {
        name: 'two pixels are the same picture',
        snippets: [
          atFoot(
            'Pixel',
            '<img src="https://glintpixel.example/p.gif?id=GP-4417-2" width="1" height="1" alt="">',
          ),
          atFoot(
            'Old pixel',
            '<img src="https://www.glintpixel.example/pixel?account=GP-4417-2" width="1" height="1" alt="">',
          ),
        ],
        check: 'same-account',
        about: ['Pixel', 'Old pixel'],
        says: /GP-4417-2/,
      },
    ]),
  clean: [
    {
      name: 'an event names the account',
      snippets: [
        inHead('Counter', LOADER),
        atFoot(
          'Booked',
          '<img src="https://tallymast.example/event.gif?id=TM-7731&e=booked" alt="" width="1" height="1">',
          { include: ['/booking/done'] },
        ),
      ],
    },
    {
      name: 'settings hold the account that the loader reads',
      snippets: [
        inHead('Settings', '<script>window.tallySettings = { account: "TM-7731" };</script>'),
        inHead('Counter', LOADER),
      ],
    },
    {
      name: 'one loader takes two products, by query',
      snippets: [
        atFoot(
          'Chat',
          '<script async src="https://parlanook.example/all.js?account=PN-2201&product=chat"></script>',
        ),
        atFoot(
          'Reviews',
          '<script async src="https://parlanook.example/all.js?account=PN-2201&product=reviews"></script>',
        ),
      ],
    },
    {
      name: 'one loader takes two products, by attribute',
      snippets: [
        atFoot(
          'Chat',
          '<script async src="https://parlanook.example/all.js" data-account="PN-2201" data-widget="chat"></script>',
        ),
        atFoot(
          'Reviews',
          '<script async src="https://parlanook.example/all.js" data-account="PN-2201" data-widget="reviews"></script>',
        ),
      ],
    },
    {
      name: 'two products of one provider have one account',
      snippets: [
        atFoot(
          'Chat',
          '<script async src="https://parlanook.example/chat.js" data-account="PN-2201"></script>',
        ),
        atFoot(
          'Form',
          '<script async src="https://parlanook.example/newsletter-form.js" data-account="PN-2201"></script>',
        ),
      ],
    },
    {
      name: 'two forms of one account',
      snippets: [
        atFoot(
          'Newsletter',
          '<script async src="https://formhatch.example/embed.js" data-account="FH-8800" data-form="newsletter-71"></script>',
          { include: ['/news'] },
        ),
        atFoot(
          'Contact form',
          '<script async src="https://formhatch.example/embed.js?form=2" data-account="FH-8800" data-form="contact-form-12"></script>',
          { include: ['/news'] },
        ),
      ],
    },
    {
      name: 'the same number at two providers',
      snippets: [
        inHead('Counter', '<script async src="https://tallymast.example/t.js?id=SKERRY-1"></script>'),
        atFoot('Chat', '<script async src="https://parlanook.example/chat.js?room=SKERRY-1"></script>'),
      ],
    },
    {
      name: 'each account has its own pages',
      snippets: [
        inHead('Counter', LOADER, { include: ['/fares'] }),
        {
          ...other('<script async src="https://cdn.tallymast.example/c.js?k=TM-7731"></script>'),
          include: ['/news'],
        },
      ],
    },
  ],
};
