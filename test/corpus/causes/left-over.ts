import { exampleRecipe, type ExampleSnippet } from '@pragmatica/core';
import { atFoot, inHead, type Cause, type CauseKind, type CleanSite } from './cause.js';

const loader = (query: string): string =>
  `<script async src="https://tallymast.example/t.js?id=${query}"></script>`;
const start = (value: string): string =>
  `<script src="https://tallymast.example/t.js"></script><script>window.tally && tally("create", ${value});</script>`;
const HOSTS = [
  { host: 'www.skerrywick.example', environment: 'live' },
  { host: 'trial.skerrywick.example', environment: 'staging' },
] as const;

const wrong = (check: string, name: string, code: string, more: Partial<ExampleSnippet> = {}): Cause => ({
  name,
  snippets: [inHead('Counter', code, more)],
  check,
  about: ['Counter'],
  site: { hosts: HOSTS },
});
const clean = (name: string, code: string, more: Partial<ExampleSnippet> = {}): CleanSite => ({
  name,
  snippets: [atFoot('Counter', code, more)],
  site: { hosts: HOSTS },
});

const EXAMPLES = [
  'YOUR_ACCOUNT_ID',
  'your-account-id',
  'your_site_key',
  'YourAccountId',
  'yourAccountID',
  'INSERT-KEY-HERE',
  'enter_key_here',
  '{{ACCOUNT_ID}}',
  '{{ account id }}',
  '{ACCOUNT_ID}',
  '{Your ID}',
  '[ACCOUNT-ID]',
  '[YOUR ID]',
  '[[SITE_ID]]',
  '%ACCOUNT_ID%',
  '__SITE_KEY__',
  '##ACCOUNT##',
  '@@TOKEN@@',
  'ACCOUNT_ID',
  'SITE-ID',
  'TRACKING_CODE',
  'TM-XXXX',
  'TM-XXXX-X',
  'xxxxxxxx',
  'XXXXXXXX',
  'tm-xxxx',
  'xxxxxxxx-xxxx-xxxx-xxxx-xxxxxxxxxxxx',
  'TM-000000',
  'TM-123456',
  '1234567890',
  'TM-12345',
  'abc123',
  'CHANGEME',
  'replace-me',
  'TODO',
  'id-goes-here',
  '00000000-0000-0000-0000-000000000000',
  '111111',
  'EXAMPLE_ID',
  '<account-id>'.replace('-', '_'),
  'pk_live_xxxxxxxxxxxx',
];

/** What was for trying things out, and stays in what goes live. */
export const LEFT_OVER: CauseKind = {
  kind: 'left over from testing',
  wrong: [
    ...EXAMPLES.map((value) => wrong('placeholder', `the account is ${value}`, start(`"${value}"`))),
    {
      name: 'the account is the one in the instructions',
      snippets: [inHead('Counter', loader('TM-5501-2'))],
      check: 'placeholder',
      about: ['Counter'],
      says: /from the instructions/,
      site: {
        recipes: [
          exampleRecipe('tallymast', 'Tallymast counter', {
            recognise: { hosts: ['tallymast.example'], addresses: [], globals: [] },
            parts: [
              {
                key: 'loader',
                placement: 'head-end',
                required: true,
                code: '<script async src="https://tallymast.example/t.js?id=@{account}"></script>',
              },
            ],
            fields: [{ name: 'account', type: 'id', label: 'account', example: 'TM-5501-2' }],
          }),
        ],
      },
    },
    wrong('placeholder', 'an address has braces', loader('{account_id}')),
    wrong('placeholder', 'an address has crosses', loader('TM-xxxxx')),
    wrong(
      'placeholder',
      'an address names “your site”',
      '<script async src="https://your-site.example/t.js"></script>',
    ),
    wrong(
      'placeholder',
      'settings have words for a value',
      '<script>window.tallySettings = { account: "Your account ID" };</script>',
    ),
    wrong(
      'placeholder',
      'settings ask for the domain',
      '<script>window.tallySettings = { domain: "yourdomain.example" };</script>',
    ),
    ...[
      'testMode: true',
      'test_mode: 1',
      'debug: true',
      'isTest: true',
      'sandbox: "true"',
      'useSandbox: true',
      'enableDebug: true',
      'environment: "sandbox"',
      'env: "staging"',
      'mode: "test"',
      'debugMode: "on"',
      'test_event_code: "TEST48213"',
      'testEventCode: "TEST1200"',
      'dryRun: true',
      'stage: "dev"',
    ].map((setting) =>
      wrong(
        'test-mode',
        `a setting says ${setting}`,
        `<script>window.nudgelet = { key: "nl-5512", ${setting} };</script>`,
      ),
    ),
    wrong(
      'test-mode',
      'a call switches it on',
      start('"TM-7731"').replace('tally("create"', 'tally("set", "debug", true) && tally("create"'),
    ),
    wrong('test-mode', 'a method switches it on', '<script>window.Tally && Tally.enableDebug();</script>'),
    wrong(
      'test-mode',
      'an attribute switches it on',
      '<script async src="https://tallymast.example/t.js" data-debug="true"></script>',
    ),
    wrong(
      'test-mode',
      'an attribute names the mode',
      '<script async src="https://tallymast.example/t.js" data-mode="test"></script>',
    ),
    wrong(
      'test-mode',
      'the address asks for it',
      '<script async src="https://tallymast.example/t.js?id=TM-7731&debug=1"></script>',
    ),
    wrong(
      'test-mode',
      'the key is for testing',
      '<script>window.slotwell = { key: "pk_test_51a8b3c9d2" };</script>',
    ),
    wrong(
      'test-mode',
      'the account ends so',
      '<script async src="https://tallymast.example/t.js" data-account="skerrywick-test"></script>',
    ),
    wrong(
      'test-mode',
      'the host is a sandbox',
      '<script async src="https://sandbox.slotwell.example/s.js"></script>',
    ),
    wrong(
      'test-mode',
      'the host is for staging',
      '<script async src="https://cdn.staging.slotwell.example/s.js"></script>',
    ),
    wrong(
      'test-mode',
      'a setting names a test host',
      '<script>window.slotwell = { api: "https://api-test.slotwell.example/v2" };</script>',
    ),
    wrong(
      'test-mode',
      'the address is one’s own computer',
      '<script async src="http://localhost:8080/t.js"></script>'.replace('http:', 'https:'),
    ),
    wrong(
      'test-mode',
      'the address is of one’s own network',
      '<script async src="https://192.168.1.20/t.js"></script>',
    ),
    wrong(
      'test-mode',
      'the site’s staging host',
      '<script async src="https://trial.skerrywick.example/js/menu.js"></script>',
    ),
  ],
  clean: [
    clean(
      'accounts look like accounts',
      `${loader('TM-7731')}<script>window.parlanook = { room: "harbour-12", token: "a8f3c21e9b" };</script>`,
    ),
    clean(
      'a form asks for your name',
      '<form id="ask"><input name="name" placeholder="Your name" aria-label="Your email"><button>Send</button></form>',
    ),
    clean(
      'words speak of your account',
      '<p id="note">Your account ID is on your ticket. Enter code at the pier.</p>',
    ),
    clean(
      'a template has a place for a name',
      '<script>var greeting = "Hello {name}"; window.greet = function (n) { return greeting.replace("{name}", n); };</script>',
    ),
    clean('a map has its tiles', '<script>window.tiles = "https://tiles.example/{z}/{x}/{y}.png";</script>'),
    clean(
      'a selector has brackets',
      '<script>window.find = function () { return document.querySelector("[data-id]"); };</script>',
    ),
    clean('sizes have an x', '<style>.note { font-size: xxx-large } .text-xxl { margin: 0 }</style>'),
    clean(
      'a test mode is off',
      '<script>window.nudgelet = { key: "nl-5512", testMode: false, debug: 0 };</script>',
    ),
    clean(
      'a test of visitors is no test mode',
      '<script>window.nudgelet = { test: "blue-button", variant: 1 };</script>',
    ),
    clean(
      'a word has test in it',
      '<script async src="https://latest.slotwell.example/contest.js"></script>',
    ),
    clean('a provider is called so', '<script async src="https://cdn.test-quay.example/t.js"></script>'),
    clean(
      'the test key runs on staging',
      '<script>window.slotwell = { key: "pk_test_51a8b3c9d2" };</script>',
      { limits: { environment: 'staging' } },
    ),
    clean(
      'the address is the site’s live host',
      '<script async src="https://www.skerrywick.example/js/menu.js"></script>',
    ),
    clean('an account has zeros and repeats', loader('TM-1001-7')),
    clean('a phone number', '<a id="call" href="tel:+44-555-123-456">Call us</a>'),
    clean('a colour', '<style>.a { color: #000000; background: #111111 }</style>'),
  ],
};
