import type { HoursResource, SiteInput, SnippetInput } from '@pragmatica/contract';
import { counterCode } from './site-pages.js';

/** What the site defines for the reaches of its snippets. */
export const SEED_REACH = {
  pageGroups: [
    { key: 'booking', name: 'Booking pages', patterns: ['/booking', '/booking/*'] },
    { key: 'confirmation', name: 'Confirmation pages', patterns: ['/booking/confirmation'] },
  ],
  consent: {
    cookie: 'biscuitkeel',
    format: { kind: 'json' as const, path: '$.purposes' },
    categories: [
      { key: 'visits', name: 'Counting visits' },
      { key: 'adverts', name: 'Adverts' },
    ],
  },
  fields: [
    {
      name: 'container',
      type: 'id' as const,
      label: 'Container at Crateline',
      example: 'CR-00-0',
      value: 'CR-20-3',
      staging: 'CR-20-9',
    },
  ],
} satisfies Pick<SiteInput, 'pageGroups' | 'consent' | 'fields'>;

/** When the harbour office has its telephones staffed. */
export const OFFICE_HOURS: HoursResource = {
  weekly: {
    mon: [{ from: '09:00', to: '17:30' }],
    tue: [{ from: '09:00', to: '17:30' }],
    wed: [{ from: '09:00', to: '17:30' }],
    thu: [{ from: '09:00', to: '19:00' }],
    fri: [{ from: '09:00', to: '17:30' }],
    sat: [{ from: '10:00', to: '14:00' }],
  },
  closed: ['01-01', '12-25', '12-26'],
};

/** The snippets of Skerrywick Ferries as release 1 holds them: every placement is used. */
export function seedSnippets(providerPort: number, chatHours: HoursResource = OFFICE_HOURS): SnippetInput[] {
  const at = (provider: string, file: string): string =>
    `http://${provider}.localhost:${providerPort}/${file}`;
  return [
    {
      key: 'cookie-question',
      name: 'Cookie question',
      purpose: 'Asks visitors whether visits may be counted.',
      provider: 'Biscuitkeel',
      parts: [
        {
          placement: 'head-start',
          code: `<script src="${at('biscuitkeel', 'consent.js')}" data-site="skerrywick"></script>`,
        },
      ],
    },
    {
      key: 'tag-container',
      name: 'Tag container',
      purpose: 'Holds the tags of the marketing people.',
      provider: 'Crateline',
      note: 'Comes in two pieces; without the second one, visitors without scripts are not counted.',
      parts: [
        {
          placement: 'head-start',
          code: `<!-- Crateline -->\n<script>\n  window.crate = window.crate || [];\n  crate.push({ event: 'start', at: Date.now() });\n</script>\n<script async src="${at('crateline', 'crate.js?id=@{container}')}"></script>\n<!-- End Crateline -->`,
        },
        {
          placement: 'body-start',
          code: `<noscript><iframe src="${at('crateline', 'no-script.html?id=@{container}')}" height="0" width="0" style="display:none"></iframe></noscript>`,
        },
      ],
    },
    {
      key: 'visit-counter',
      name: 'Visit counter',
      purpose: 'Counts visits for the yearly report.',
      provider: 'Tallymast',
      parts: [{ placement: 'head-end', code: counterCode(providerPort) }],
    },
    {
      key: 'booking-pixel',
      name: 'Booking pixel',
      purpose: 'Tells the adverts who has looked at booking.',
      provider: 'Glintpixel',
      pages: { include: ['@booking'] },
      limits: { consent: ['adverts'] },
      parts: [
        {
          placement: 'head-end',
          code: `<script>\n  window.glint = window.glint || function () { (glint.waiting = glint.waiting || []).push(arguments); };\n  glint('account', 'GP-4417');\n  glint('event', 'booking-seen');\n</script>\n<script async src="${at('glintpixel', 'glint.js')}"></script>`,
        },
      ],
    },
    {
      key: 'works-notice',
      name: 'Works notice',
      purpose: 'A line across the top while the slip is closed.',
      state: 'off',
      parts: [
        {
          placement: 'body-start',
          code: `<div role="status" style="background:#f6efe2;padding:.6rem 1rem;text-align:center;font:15px system-ui">Works on the slip: foot passengers board at the fish quay.</div>`,
        },
      ],
    },
    {
      key: 'booking-button',
      name: 'Booking button',
      purpose: 'The button above the booking form.',
      provider: 'Slotwell',
      pages: { include: ['/booking'] },
      parts: [
        {
          placement: { anchor: 'booking-widget', side: 'inside' },
          code: `<script src="${at('slotwell', 'button.js')}" data-quay="port-hallow" data-label="See free places"></script>`,
        },
      ],
    },
    {
      key: 'newsletter-form',
      name: 'Newsletter form',
      purpose: 'Collects addresses for the newsletter.',
      provider: 'Formhatch',
      parts: [
        {
          placement: { anchor: 'newsletter', side: 'inside' },
          code: `<div id="formhatch-quay"></div>\n<script src="${at('formhatch', 'form.js')}" data-form="quay"></script>`,
        },
      ],
      pages: { exclude: ['/contact', '/history'] },
    },
    {
      key: 'harbour-chat',
      name: 'Harbour chat',
      purpose: 'Visitors ask the harbour office.',
      provider: 'Parlanook',
      pages: { exclude: ['@confirmation'] },
      limits: { hours: chatHours },
      parts: [
        {
          placement: 'body-end',
          code: `<script>window.parlanook = { room: 'harbour-office', greeting: 'Ask the harbour office' };</script>\n<script async src="${at('parlanook', 'chat.js')}"></script>`,
        },
      ],
    },
    {
      key: 'test-flag',
      name: 'Test flag',
      purpose: 'On staging, pop-ups come every time and nothing is counted.',
      provider: 'Nudgelet',
      limits: { environment: 'staging' },
      parts: [{ placement: 'head-end', code: '<script>window.nudgelet = { testMode: true };</script>' }],
    },
    {
      key: 'summer-offer',
      name: 'Summer offer',
      purpose: 'A pop-up for the ten-crossings ticket.',
      provider: 'Nudgelet',
      pages: { include: ['/', '/fares'] },
      parts: [
        {
          placement: 'body-end',
          code: `<script src="${at('nudgelet', 'nudge.js')}" data-nudge="ten-crossings" data-after="1" data-text="Ten crossings, eight paid: ask on board."></script>`,
        },
      ],
    },
  ];
}

/** What somebody changed after release 1 and has not published yet. */
export function seedDraftSnippet(providerPort: number): SnippetInput {
  return {
    key: 'accessibility-menu',
    name: 'Accessibility menu',
    purpose: 'Larger text at the press of a button.',
    provider: 'Easewheel',
    parts: [
      {
        placement: 'body-end',
        code: `<script async src="http://easewheel.localhost:${providerPort}/ease.js"></script>`,
      },
    ],
  };
}
