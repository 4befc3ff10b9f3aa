import {
  RecipeBook,
  exampleFile,
  exampleKnowledge,
  exampleRecipe,
  exampleSet,
  pageSkeleton,
  type DeliveryKey,
  type ExampleSnippet,
  type Field,
  type KnownFile,
  type Knowledge,
  type Placement,
} from '@pragmatica/core';

/** A site whose pages get their parts in a way. */
const deliveredBy = (delivery: DeliveryKey): Knowledge => ({
  hosts: [{ host: 'www.site.example', environment: 'live', delivery }],
  lineAddress: 'https://lines.example/one/site.js',
});

const PINNED = 'https://files.example/deckhand-3.0.0.js';
const PINNED_TAG = `<script defer src="${PINNED}" integrity="sha256-n0p1q2r3" crossorigin></script>`;
const withFile = (change: Partial<KnownFile>): Knowledge => ({
  files: { base: 'https://www.site.example', files: [exampleFile(PINNED, change)] },
});

/** A set in which a check says a certain thing. */
export interface Variant {
  readonly set: readonly ExampleSnippet[];
  readonly title: string;
  readonly fields?: readonly Field[];
  readonly noConsent?: true;
  readonly known?: Knowledge;
}

const one = (
  name: string,
  placement: Placement,
  code: string,
  more: Partial<ExampleSnippet> & { readonly statement?: string } = {},
): ExampleSnippet => {
  const { statement, ...rest } = more;
  return { name, parts: [{ placement, code, ...(statement === undefined ? {} : { statement }) }], ...rest };
};

const field = (more: Partial<Field>): Field => ({ name: 'account', type: 'id', label: 'Account', ...more });
const withField = (placement: Placement, code: string): ExampleSnippet[] => [one('Counter', placement, code)];
const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
const USES_ACCOUNT = '<script async src="https://tallymast.example/count.js?id=@{account}"></script>';
const DEFERRED = `<script type="module">window.boats = { next: '10:40' };</script>`;
const USE = '<script>boats.next;</script>';
const ASK = exampleRecipe('ask', 'Ask', {
  recognise: { hosts: ['biscuitkeel.example'], addresses: [], globals: [] },
});
const PIXEL = exampleRecipe('pixel', 'Pixel', {
  recognise: { hosts: ['glintpixel.example'], addresses: [], globals: [] },
  after: ['ask'],
});
const BOOK = { book: new RecipeBook([ASK, PIXEL]) };
const pixel = one(
  'Advert pixel',
  'head-end',
  '<script async src="https://glintpixel.example/p.js"></script>',
);
const ask = (more: Partial<ExampleSnippet>): ExampleSnippet =>
  one('Cookie question', 'head-start', '<script src="https://biscuitkeel.example/ask.js"></script>', more);
const link = (code: string): ExampleSnippet => one('Home', 'body-end', code);
const kind = (name: string, host: string, file: string): ExampleSnippet =>
  one(name, 'head-start', `<script src="https://${host}.example/${file}.js"></script>`);

const page = (path: string, head = ''): string =>
  `<!DOCTYPE html><html><head><title>${path}</title>${head}</head><body><p>x</p></body></html>`;

/** What a survey sees of pages, into which the parts of a set are put but for some. */
const surveyed = (
  set: readonly ExampleSnippet[],
  pages: Readonly<Record<string, string>>,
  undelivered: readonly string[],
): Knowledge => exampleKnowledge({ pages, undelivered }, exampleSet(set));

/** The same of a page that comes with a policy of its own. */
const policed = (set: readonly ExampleSnippet[], policy: string): Knowledge =>
  surveyed(set, { '/': page('/', `<meta http-equiv="content-security-policy" content="${policy}">`) }, []);

/** Looks for an element, which the second page has. */
const SEEKS = "<script>document.getElementById('letter').className = 'wide';</script>";
const ITS_PAGE = page('/').replace('<p>x</p>', '<form id="letter"></form>');

const COUNTS = [one('Counter', 'head-end', COUNTER)];

const TWO = [...COUNTS, one('Chat', 'body-end', '<script>chat()</script>')];

/** What the examples of the checks and the mistakes in whole sets do not lead to, by check and message. */
export const VARIANTS: Readonly<Record<string, Variant>> = {
  'hard-coded.same-account': {
    set: COUNTS,
    known: surveyed(
      COUNTS,
      { '/': page('/', '<script src="https://www.tallymast.example/v2.js?id=TM-7731"></script>') },
      [],
    ),
    title: 'The site itself reports to the same account as “Counter”',
  },
  'hard-coded.same-file': {
    set: [one('Tides', 'head-end', '<script src="https://tides.example/t.js"></script>')],
    known: surveyed(
      [],
      { '/': page('/', '<script defer src="https://tides.example/t.js?v=2"></script>') },
      [],
    ),
    title: '“Tides” loads a file that the site already loads',
  },
  'element-not-there.further-down': {
    set: [one('Wide form', 'body-start', SEEKS)],
    known: surveyed([], { '/': ITS_PAGE }, []),
    title: '“Wide form” looks for #letter before it exists',
  },
  'element-not-there.nowhere': {
    set: [one('Wide form', 'body-end', SEEKS)],
    known: surveyed([], { '/': page('/') }, []),
    title: '“Wide form” looks for #letter, which is on none of its pages',
  },
  'element-not-there.some-pages': {
    set: [one('Wide form', 'body-end', SEEKS)],
    known: surveyed([], { '/': ITS_PAGE, '/fares': page('/fares') }, []),
    title: '“Wide form” looks for #letter, which /fares does not have',
  },
  'page-brings-later.ready-later': {
    set: [one('Moorings', 'body-end', '<script>berths.next;</script>')],
    known: surveyed([], { '/': page('/', '<script type="module">window.berths = {};</script>') }, []),
    title: '“Moorings” needs “berths”, which / does not have until later',
  },
  'page-brings-later.race': {
    set: [one('Moorings', 'body-end', '<script>berths.next;</script>')],
    known: {
      ...surveyed([], { '/': page('/', '<script async src="/berths.js"></script>') }, []),
      files: {
        base: 'https://www.site.example',
        files: [exampleFile('https://www.site.example/berths.js', { defines: ['berths'] })],
      },
    },
    title: '“Moorings” may run before “berths” exists on /',
  },
  'pattern-without-page.none': {
    set: [one('Thanks', 'head-end', COUNTER, { include: ['/booking/thanks'] })],
    known: surveyed([], { '/': page('/') }, []),
    title: '“Thanks” names /booking/thanks, which matches no page',
  },
  'pattern-without-page.excluded': {
    set: [one('Thanks', 'head-end', COUNTER, { exclude: ['/booking/thanks'] })],
    known: surveyed([], { '/': page('/') }, []),
    title: '“Thanks” excludes /booking/thanks, which matches no page',
  },
  'pattern-without-page.near-excluded': {
    set: [one('Thanks', 'head-end', COUNTER, { exclude: ['/fars'] })],
    known: surveyed([], { '/fares': page('/fares') }, []),
    title: '“Thanks” excludes /fars, which matches no page',
  },
  'recipe-retired.in-pages': {
    set: COUNTS,
    known: {
      ...surveyed([], { '/': page('/', '<script src="https://dial.example/d.js"></script>') }, []),
      book: new RecipeBook([
        exampleRecipe('dial', 'Dial', {
          recognise: { hosts: ['dial.example'], addresses: [], globals: [] },
          retired: { reason: 'Nobody answers any more.' },
        }),
      ]),
    },
    title: 'The site itself has a retired install: “Dial”',
  },
  'page-weight.heavy-itself': {
    set: COUNTS,
    known: {
      ...surveyed([], { '/': page('/', '<script src="/all.js"></script>') }, []),
      files: {
        base: 'https://www.site.example',
        files: [exampleFile('https://www.site.example/all.js', { bytes: 1_234_000 })],
      },
    },
    title: 'Pages like / load 1,234 KB of scripts and styles',
  },
  'missing-on-pages.some': {
    set: COUNTS,
    known: surveyed(COUNTS, { '/': page('/'), '/fares': page('/fares') }, ['/fares']),
    title: '“Counter” is missing on 1 of 2 pages',
  },
  'missing-on-pages.changed': {
    set: COUNTS,
    known: surveyed(
      COUNTS,
      {
        '/': page('/', '<SCRIPT async data-x src="https://tallymast.example/count.js?id=TM-7731"></SCRIPT>'),
      },
      ['/'],
    ),
    title: '“Counter” reaches visitors changed',
  },
  // Something that speeds pages up takes the script its type, to start it later.
  'missing-on-pages.changed ': {
    set: COUNTS,
    known: surveyed(
      COUNTS,
      {
        '/': page(
          '/',
          '<script async type="text/later" src="https://tallymast.example/count.js?id=TM-7731"></script>',
        ),
      },
      ['/'],
    ),
    title: '“Counter” reaches visitors changed',
  },
  'blocked-by-policy.inline': {
    set: [one('Pixel', 'body-end', '<script>glint()</script>')],
    known: policed([one('Pixel', 'body-end', '<script>glint()</script>')], "default-src 'self'"),
    title: '“Pixel” is blocked on / by the page’s content policy',
  },
  'blocked-by-policy.nonce': {
    set: COUNTS,
    known: policed(COUNTS, "script-src 'nonce-4f1' 'strict-dynamic'"),
    title: '“Counter” needs a nonce on /',
  },
  'blocked-by-policy.several': {
    set: TWO,
    known: policed(TWO, "script-src 'self'"),
    title: '2 snippets are blocked on / by the page’s content policy',
  },
  'blocked-by-policy.several-nonce': {
    set: TWO,
    known: policed(TWO, "script-src 'nonce-4f1'"),
    title: '2 snippets need a nonce on /',
  },
  'contained.stray-end': {
    set: [one('Notice', 'body-end', '<p>Slip closed</p></div>')],
    title: '“Notice” closes an element of the page with </div>',
  },
  'contained.ends-head': {
    set: [one('Notice', 'head-end', '<p>Slip closed</p>')],
    title: '“Notice” ends the head early with <p>',
  },
  'contained.ends-head-of-others': {
    set: [one('Notice', 'head-start', '<p>Slip closed</p>'), one('Counter', 'head-end', COUNTER)],
    title: '“Notice” ends the head early with <p>',
  },
  'contained.changes-page': {
    set: [one('Deep', 'body-end', `${'<div>'.repeat(600)}${'</div>'.repeat(600)}`)],
    title: '“Deep” changes the page around it',
  },
  'contained.on-page': {
    set: [
      one('Search', { anchor: 'find', side: 'inside' }, '<form><input name="q"></form>', { include: ['/'] }),
    ],
    known: { paths: ['/'], skeletons: [pageSkeleton('/', '<body><form id="find"><input></form></body>')] },
    title: '“Search” changes the page around it on /',
  },
  'not-code.text': {
    set: [one('Counter', 'body-end', 'Your account is ready')],
    title: '“Counter” is just text',
  },
  'element-not-there.own-element': {
    set: [
      one(
        'Form',
        'body-end',
        `<script>document.getElementById('f').hidden = true;</script><form id="f"></form>`,
      ),
    ],
    title: '“Form” looks for #f before it exists',
  },
  'provider-said.cannot-move': {
    set: [
      one('Box', 'body-end', '<div>Hello</div>', { statement: 'Put this as high in the head as possible.' }),
    ],
    title: '“Box” is at the end of the body, but its provider wants it at the start of the head',
  },
  'used-before-defined.ready-later': {
    set: [one('Boats', 'head-start', DEFERRED), one('Fares', 'head-end', USE)],
    title: '“Fares” needs “Boats”, which is not ready until later',
  },
  'used-before-defined.race': {
    set: [
      one('Boats', 'head-start', '<script type="module" async>window.boats = { next: 1 };</script>'),
      one('Fares', 'head-end', `<script type="module">boats.next;</script>`),
    ],
    title: '“Fares” may run before “Boats” is ready',
  },
  'used-before-defined.race-by-order': {
    set: [
      one('Fares', 'head-start', `<script type="module" async>boats.next;</script>`),
      one('Boats', 'head-end', `<script>window.boats = { next: 1 };</script>`),
    ],
    title: '“Fares” may run before “Boats” is ready',
  },
  'order-cycle.cycle': {
    set: [
      one(
        'Boats',
        'body-end',
        `<div id="boats"></div><script>document.getElementById('fares').hidden = true</script>`,
      ),
      one(
        'Fares',
        'body-end',
        `<div id="fares"></div><script>document.getElementById('boats').hidden = true</script>`,
      ),
    ],
    title: '“Boats” and “Fares” need each other first',
  },
  'placeholder.example': {
    set: [one('Counter', 'head-end', `<script>window.tallyAccount = "TM-00000-0";</script>`)],
    title: '“Counter” still has the example value “TM-00000-0”',
  },
  'needs-what-is-off.archived': {
    set: [
      one('Boats', 'head-start', `<script>window.boats = { next: 1 };</script>`, { state: 'archived' }),
      one('Fares', 'head-end', USE),
    ],
    title: '“Fares” needs “Boats”, which is archived',
  },
  'needs-what-is-off.other-pages': {
    set: [
      one('Boats', 'head-start', `<script>window.boats = { next: 1 };</script>`, { include: ['/boats'] }),
      one('Fares', 'head-end', USE),
    ],
    title: '“Fares” runs where “Boats” does not',
  },
  'settings-after-loader.race': {
    set: [
      one('Menu', 'body-end', '<script async src="https://easewheel.example/menu.js"></script>'),
      one('Menu settings', 'body-end', `<script>window.easewheel = { corner: 'bottom left' };</script>`),
    ],
    title: '“Menu settings” may come after the script that reads it',
  },
  'stated-need.archived': {
    set: [
      one('Pixel', 'head-end', COUNTER, { needs: ['question'] }),
      one('Question', 'head-start', '<meta name="a" content="b">', { state: 'archived' }),
    ],
    title: '“Pixel” needs “Question”, which is archived',
  },
  'stated-need.off': {
    set: [
      one('Pixel', 'head-end', COUNTER, { needs: ['question'] }),
      one('Question', 'head-start', '<meta name="a" content="b">', { state: 'off' }),
    ],
    title: '“Pixel” needs “Question”, which is switched off',
  },
  'stated-need.other-pages': {
    set: [
      one('Question', 'head-start', '<meta name="a" content="b">', { include: ['/fares'] }),
      one('Pixel', 'head-end', COUNTER, { needs: ['question'] }),
    ],
    title: '“Pixel” needs “Question”, which does not run on /',
  },
  'stated-need.gone': {
    set: [one('Pixel', 'head-end', COUNTER, { needs: ['question'] })],
    title: '“Pixel” needs “question”, which no longer exists',
  },
  'recipe-need.off': {
    set: [ask({ state: 'off' }), pixel],
    known: BOOK,
    title: '“Advert pixel” needs “Cookie question”, which is switched off',
  },
  'recipe-need.archived': {
    set: [ask({ state: 'archived' }), pixel],
    known: BOOK,
    title: '“Advert pixel” needs “Cookie question”, which is archived',
  },
  'recipe-need.other-pages': {
    set: [ask({ include: ['/fares'] }), pixel],
    known: BOOK,
    title: '“Advert pixel” needs “Cookie question”, which does not run on /',
  },
  'recipe-need.not-installed': {
    set: [pixel],
    known: BOOK,
    title: '“Advert pixel” needs “Ask”, which this site does not have',
  },
  'same-code.part': {
    set: [
      one('Counter', 'head-start', COUNTER),
      {
        name: 'Two things',
        parts: [
          { placement: 'head-end', code: COUNTER },
          { placement: 'body-end', code: '<p>Two for one</p>' },
        ],
      },
    ],
    title: '“Two things” (piece 1) is the same code as “Counter”',
  },
  'same-code.on-some-pages': {
    set: [
      one('Counter', 'head-start', COUNTER, { include: ['/fares', '/news'] }),
      one('Statistics', 'head-end', COUNTER, { include: ['/fares', '/booking'] }),
    ],
    title: '“Statistics” is the same code as “Counter”',
  },
  'two-of-a-kind.consent': {
    set: [
      kind('Cookie question', 'biscuitkeel', 'consent'),
      kind('Old question', 'asktide', 'cookie-consent'),
    ],
    title: '“Cookie question” and “Old question” both look like a consent banner',
  },
  'two-of-a-kind.accessibility': {
    set: [kind('Ease', 'easewheel', 'accessibility'), kind('Old menu', 'reachrail', 'accessibility-menu')],
    title: '“Ease” and “Old menu” both look like an accessibility menu',
  },
  'field-problem.no-safe-place': {
    set: withField('head-end', '<@{account}>'),
    fields: [field({ value: 'a' })],
    title: '“Counter”: the field “account” is in a place where it cannot safely be filled in',
  },
  'field-problem.empty': {
    set: withField('head-end', USES_ACCOUNT),
    fields: [field({ live: 'TM-1' })],
    title: '“Counter”: the field “account” has no value on staging',
  },
  'field-problem.wrong-value': {
    set: withField('head-end', USES_ACCOUNT),
    fields: [field({ type: 'number', value: 'seven' })],
    title: '“Counter”: the field “account” cannot be “seven”, its value on staging',
  },
  'field-problem.not-an-address': {
    set: [link('<a href="@{account}">Home</a>')],
    fields: [field({ type: 'text', value: 'javascript:alert(1)' })],
    title: '“Home”: the field “account” cannot be “javascript:alert(1)” in that place',
  },
  'field-problem.not-a-word': {
    set: [link('<a class=@{account}>Home</a>')],
    fields: [field({ type: 'text', value: 'two words' })],
    title: '“Home”: the field “account” cannot be “two words” in that place',
  },
  'field-example.example-on-staging': {
    set: withField('head-end', USES_ACCOUNT),
    fields: [field({ example: 'TM-0000', live: 'TM-7731', staging: 'TM-0000' })],
    title: '“Counter”: “Account” is still the example, TM-0000, on staging',
  },
  'undefined-reach.no-group': {
    set: [one('Pixel', 'head-end', COUNTER, { include: ['@tours'] })],
    title: '“Pixel” uses the page group @tours, which does not exist',
  },
  'undefined-reach.no-consent': {
    set: [one('Pixel', 'head-end', COUNTER, { limits: { consent: ['adverts'] } })],
    noConsent: true,
    title: '“Pixel” waits for consent to “adverts”, which this site does not ask for',
  },
  'reach-empty.over': {
    set: [one('Offer', 'head-end', COUNTER, { limits: { hours: { last: '2027-02-28' } } })],
    title: '“Offer” has ended: its last day is past',
  },
  'reach-empty.never-open': {
    set: [one('Offer', 'head-end', COUNTER, { limits: { hours: { weekly: {} } } })],
    title: '“Offer” never opens',
  },
  'reach-empty.no-device': {
    set: [one('Offer', 'head-end', COUNTER, { limits: { devices: [] } })],
    title: '“Offer” runs on no device',
  },
  'reach-empty.no-window': {
    set: [one('Offer', 'head-end', COUNTER, { limits: { visitor: { minWidth: 900, maxWidth: 600 } } })],
    title: '“Offer” fits no window size',
  },
  'reach-empty.no-page-of-environment': {
    set: [
      one('Offer', 'head-end', COUNTER, {
        include: ['//www.skerrywick.localhost/*'],
        limits: { environment: 'staging' },
      }),
    ],
    known: {
      hosts: [
        { host: 'www.skerrywick.localhost', environment: 'live' },
        { host: 'staging.skerrywick.localhost', environment: 'staging' },
      ],
    },
    title: '“Offer” runs on no page',
  },
  'open-step.open-with-help': {
    set: [one('Harbour chat', 'body-end', COUNTER, { recipe: 'chat' })],
    known: {
      book: new RecipeBook([
        exampleRecipe('chat', 'Chat', {
          steps: [
            {
              key: 'list',
              per: 'site',
              title: 'Put it on the list',
              open: 'it is not listed',
              help: 'See Sites.',
            },
          ],
        }),
      ]),
    },
    title: '“Harbour chat”: it is not listed',
  },
  'recipe-retired.replaced': {
    set: [one('Old counter', 'head-end', COUNTER)],
    known: {
      book: new RecipeBook([
        exampleRecipe('old', 'Old counter', {
          recognise: { hosts: ['tallymast.example'], addresses: [], globals: [] },
          retired: { reason: 'It stops in May', replacedBy: 'new' },
        }),
        exampleRecipe('new', 'New counter', {}),
      ]),
    },
    title: '“Old counter” uses a retired install: “Old counter”',
  },
  'recipe-behind.behind': {
    set: [one('Chat', 'body-end', COUNTER, { recipe: 'chat' })],
    known: {
      book: new RecipeBook([exampleRecipe('chat', 'Chat', { version: 2 })]),
    },
    title: '“Chat” uses version 1 of “Chat”; the newest is 2',
  },
  'line-blocked.nonce': {
    set: COUNTS,
    known: {
      ...policed(COUNTS, "script-src 'nonce-x7f' 'strict-dynamic'"),
      ...deliveredBy('async-line'),
    },
    title: 'On / the one line needs the page’s nonce',
  },
  'no-box.unknown': {
    set: COUNTS,
    known: deliveredBy('paste'),
    title: 'The code boxes of www.site.example are not described yet',
  },
  'no-box.no-body-box': {
    set: [one('Counter', 'body-end', COUNTER)],
    known: { ...deliveredBy('paste'), boxes: [{ kind: 'page-head', name: 'Page code' }] },
    title: '“Counter” goes at the end of the body, but no box reaches there',
  },
  'no-box.strips-scripts': {
    set: [one('Counter', 'body-end', COUNTER)],
    known: {
      ...deliveredBy('paste'),
      boxes: [{ kind: 'site-foot', name: 'Footer', stripsScripts: true }],
    },
    title: '“Counter” needs a script, but its box strips scripts',
  },
  'no-box.too-many-pages': {
    set: COUNTS,
    known: {
      ...deliveredBy('paste'),
      boxes: [{ kind: 'page-head', name: 'Page code' }],
      paths: Array.from({ length: 31 }, (_, i) => `/${String(i)}`),
    },
    title: '“Counter” would have to be pasted into 31 pages one by one',
  },
  'no-box.too-long': {
    set: COUNTS,
    known: {
      ...deliveredBy('paste'),
      boxes: [{ kind: 'site-head', name: 'Head code', maxLength: 100 }],
    },
    title: 'The block for “Head code” is 70 characters too long',
  },
  'late-for-page.body': {
    set: [one('Boats', 'body-start', "<script>window.boats = { next: '10:40' };</script>")],
    known: {
      ...surveyed([], { '/': page('/').replace('<p>x</p>', `<p>x</p>${USE}`) }, []),
      ...deliveredBy('line'),
    },
    title: '“boats” is used on / before “Boats” defines it',
  },
  'unpinned-file.unpinned': {
    set: [one('Slider', 'body-end', '<script defer src="https://files.example/deckhand-3.0.0.js"></script>')],
    title: '“Slider” loads “deckhand” 3.0.0 without its fingerprint',
  },
  'pinned-file-refused.changed': {
    set: [one('Slider', 'body-end', PINNED_TAG)],
    known: withFile({ integrity: 'sha256-YW5vdGhlcg==', isShared: true }),
    title: '“Slider” loads a file that has changed since it was pinned',
  },
  'pinned-file-refused.unshared': {
    set: [one('Slider', 'body-end', PINNED_TAG)],
    known: withFile({ integrity: 'sha256-n0p1q2r3' }),
    title: '“Slider” pins a file that cannot be compared',
  },
};
