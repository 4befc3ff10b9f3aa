import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { VisitRoundInput } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import type { Browser, Page } from 'playwright-core';
import { DESKTOP, openConsole, replaceCode, startBrowser, type View } from '../test/support/browser.js';
import { OFFICE_HOURS, setWatch } from '@pragmatica/demo';
import { send } from '../test/support/http.js';
import { startStage, type Stage } from '../test/support/stage.js';
import { survey } from '../test/support/surveys.js';
import { visitSite } from '../test/support/visits.js';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const OUT = resolve(process.argv[2] ?? join(ROOT, 'docs/screenshots'));
const PHONE: View = { width: 390, height: 844, theme: 'light' };
const DARK: View = { ...DESKTOP, theme: 'dark' };

interface Shot {
  readonly name: string;
  readonly view: View;
  readonly path: string;
  /** Text that says that the page is there. */
  readonly awaits: string;
  readonly isSignedOut?: boolean;
  act?(page: Page): Promise<void>;
}

const STRIP = '/sites/skerrywick/strip?path=%2Fbooking&of=draft';

const SHOTS: readonly Shot[] = [
  {
    name: 'console-sites',
    view: DESKTOP,
    path: '/',
    awaits: 'need your attention',
    act: (page) => page.getByRole('button', { name: 'No, thanks' }).click(),
  },
  {
    name: 'console-recipes',
    view: DESKTOP,
    path: '/recipes/updates',
    awaits: 'counts pages by their titles',
  },
  {
    name: 'console-reach',
    view: DESKTOP,
    path: '/sites/skerrywick/snippets/harbour-chat#reach',
    awaits: 'When and for whom?',
    act: showHours,
  },
  {
    name: 'console-visits',
    view: DESKTOP,
    path: '/sites/skerrywick/check/browser',
    awaits: 'No answer yet',
  },
  {
    name: 'console-weight',
    view: DESKTOP,
    path: '/sites/skerrywick/check/weight',
    awaits: 'Budget: 7 kB more than the page itself',
  },
  {
    name: 'console-why',
    view: DESKTOP,
    path: '/sites/skerrywick/check/why?snippet=booking-pixel&path=%2Fbooking',
    awaits: 'What to do',
  },
  { name: 'console-strip', view: DESKTOP, path: STRIP, awaits: 'Booking button' },
  {
    name: 'console-place',
    view: DESKTOP,
    path: '/sites/skerrywick/snippets/new',
    awaits: 'Where does it go?',
    act: pickPlace,
  },
  {
    name: 'console-delivery',
    view: DARK,
    path: '/sites/skerrywick/delivery',
    awaits: 'One line, pasted once',
    act: describeBoxes,
  },
  {
    name: 'console-policy',
    view: DESKTOP,
    path: '/sites/skerrywick/delivery/policy',
    awaits: 'What pages have now',
    act: tryPolicy,
  },
  { name: 'console-strip-phone', view: PHONE, path: STRIP, awaits: 'Booking button' },
  {
    name: 'console-add-snippet',
    view: DESKTOP,
    path: '/sites/skerrywick/snippets/new',
    awaits: 'Add a snippet',
    act: pasteStops,
  },
  {
    name: 'console-survey',
    view: DESKTOP,
    path: '/sites/skerrywick/survey',
    awaits: 'Tallymast visit counter',
    async act(page) {
      await page.getByRole('button', { name: /Tallymast visit counter/ }).click();
      await page.locator('mark').waitFor();
    },
  },
  {
    name: 'console-coverage',
    view: DESKTOP,
    path: '/sites/skerrywick/survey/coverage',
    awaits: 'Every snippet is on every page',
    async act(page) {
      await page.getByRole('button', { name: /^\/news/ }).click();
      await page.getByText('/news/winter-works').waitFor();
    },
  },
];

const WATCHED: Shot = {
  name: 'console-watch',
  view: DESKTOP,
  path: '/sites/skerrywick/check/watch',
  awaits: 'After each round of visits',
};

/** Taken last, with the accidents of `breakDraft` in the draft. */
const FINDINGS = '/sites/skerrywick/findings';
const ACCIDENTS: readonly Shot[] = [
  { name: 'console-findings', view: DESKTOP, path: FINDINGS, awaits: 'Errors' },
  {
    name: 'console-publish',
    view: DESKTOP,
    path: STRIP,
    awaits: 'has no <script> tags',
    async act(page) {
      await page.getByRole('button', { name: 'Publish…' }).click();
      await page.getByText('Why publish anyway?').waitFor();
    },
  },
];

/** For looking only, with MORE_VIEWS=1. */
const MORE: readonly Shot[] = [
  { name: 'sign-in', view: DESKTOP, path: '/', awaits: 'one-time password', isSignedOut: true },
  { name: 'recipes-phone', view: PHONE, path: '/recipes', awaits: 'Reusable installs' },
  { name: 'recipe-phone', view: PHONE, path: '/recipes/crateline-container', awaits: 'Versions' },
  { name: 'recipe-dark', view: DARK, path: '/recipes/tallymast-counter', awaits: 'Versions' },
  { name: 'updates-phone', view: PHONE, path: '/recipes/updates', awaits: 'Update' },
  { name: 'checklist-phone', view: PHONE, path: '/sites/skerrywick/checklist', awaits: 'done.' },
  { name: 'checklist-dark', view: DARK, path: '/sites/skerrywick/checklist', awaits: 'done.' },
  { name: 'sites', view: PHONE, path: '/', awaits: 'need your attention' },
  { name: 'fields-phone', view: PHONE, path: '/fields', awaits: 'every site that has them' },
  {
    name: 'settings-dark',
    view: DARK,
    path: '/sites/skerrywick/settings',
    awaits: 'Page groups',
    async act(page) {
      await page.getByText('Page groups').first().scrollIntoViewIfNeeded();
      await page.mouse.wheel(0, 700);
    },
  },
  {
    name: 'reach-phone',
    view: PHONE,
    path: '/sites/skerrywick/snippets/harbour-chat#reach',
    awaits: 'When and for whom?',
    act: showHours,
  },
  {
    name: 'reach-dark',
    view: DARK,
    path: '/sites/skerrywick/snippets/summer-offer',
    awaits: 'When and for whom?',
    async act(page) {
      await page.getByRole('button', { name: 'Change When and for whom?' }).click();
      await page.getByText('Delay or limit').click();
      await page.locator('#reach').evaluate((section) => section.scrollIntoView());
    },
  },
  {
    name: 'publish-several',
    view: DESKTOP,
    path: '/',
    awaits: 'Publish several',
    async act(page) {
      await page.getByText('Publish several').click();
    },
  },
  { name: 'strip-findings', view: DESKTOP, path: STRIP, awaits: 'has no <script> tags' },
  { name: 'strip-findings-phone', view: PHONE, path: STRIP, awaits: 'has no <script> tags' },
  { name: 'findings-dark', view: DARK, path: FINDINGS, awaits: 'Errors' },
  { name: 'findings-phone', view: PHONE, path: FINDINGS, awaits: 'Errors' },
  {
    name: 'findings-fix',
    view: DESKTOP,
    path: FINDINGS,
    awaits: 'Errors',
    async act(page) {
      await page.getByRole('button', { name: /Add <script> tags/ }).click();
      await page.getByText('comes').first().waitFor({ state: 'attached' });
    },
  },
  {
    name: 'findings-waive',
    view: DARK,
    path: FINDINGS,
    awaits: 'Errors',
    async act(page) {
      await page.getByRole('button', { name: 'Accept for now…' }).first().click();
    },
  },
  {
    name: 'findings-by-snippet',
    view: DESKTOP,
    path: FINDINGS,
    awaits: 'Errors',
    async act(page) {
      await page.getByRole('radio', { name: 'By snippet' }).click();
    },
  },
  { name: 'edit', view: DESKTOP, path: '/sites/skerrywick/snippets/old-statistics', awaits: 'History' },
  {
    name: 'edit-history',
    view: DARK,
    path: '/sites/skerrywick/snippets/visit-counter',
    awaits: 'History',
    async act(page) {
      await page.getByRole('heading', { name: 'History' }).scrollIntoViewIfNeeded();
    },
  },
  {
    name: 'add-phone',
    view: PHONE,
    path: '/sites/skerrywick/snippets/new',
    awaits: 'Add a snippet',
    act: pasteStops,
  },
  {
    name: 'add-checks',
    view: DARK,
    path: '/sites/skerrywick/snippets/new',
    awaits: 'Add a snippet',
    async act(page) {
      await replaceCode(
        page,
        '<script>\n  glint("event", "seen");\n  var account = "YOUR_ACCOUNT_ID";\n</script>',
      );
      await page.getByRole('heading', { name: 'Checked with the rest' }).waitFor();
      await page.getByText('YOUR_ACCOUNT_ID').first().hover();
    },
  },
];

async function describeBoxes(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Describe boxes…' }).click();
  const dialog = page.getByRole('dialog');
  for (const [index, [kind, name]] of (
    [
      ['The head of all pages', 'Custom code, head'],
      ['The foot of all pages', 'Custom code, end of body'],
    ] as const
  ).entries()) {
    await dialog.getByLabel(kind).check();
    await dialog.getByLabel('What it is called there').nth(index).fill(name);
  }
  await dialog.getByRole('button', { name: 'Save' }).click();
  await page.getByText('To paste', { exact: true }).first().waitFor();
}

async function showHours(page: Page): Promise<void> {
  await page.getByText('Monday').first().waitFor({ state: 'attached' });
  await page.locator('#reach').evaluate((section) => section.scrollIntoView());
}

async function pasteStops(page: Page): Promise<void> {
  await replaceCode(
    page,
    '<script async src="http://pierlist.localhost/stops.js" data-list="quays"></script>',
  );
  await page.getByRole('button', { name: 'Change On which pages?' }).click();
  await page.getByText('Only some pages').click();
  await page.getByRole('button', { name: '/stops' }).click();
  await page.mouse.move(0, 0);
  await page.evaluate(() => scrollTo(0, 0));
}

const COMMANDS: readonly { name: string; args: readonly string[] }[] = [
  { name: 'cli-verify', args: ['verify'] },
];

const CLASSES: Record<string, string> = { '1': 'b', '2': 'd', '31': 'r', '32': 'g', '33': 'y', '36': 'c' };

const stage = await startStage({ isWhole: true, hasWorker: true, chatHours: OFFICE_HOURS });
await survey(stage, 'skerrywick');
const visited = { site: 'skerrywick' };
await visit({ pages: ['/', '/booking'] });
await setWatch(stage.client, 'skerrywick', { cron: '0 6 * * *', budgetKb: 7 });
await visit({ weigh: true });
const browser = await startBrowser();
mkdirSync(OUT, { recursive: true });
try {
  for (const shot of SHOTS) await takePage(browser, stage, shot);
  await seeItBreak();
  await takePage(browser, stage, WATCHED);
  for (const command of COMMANDS) await takeCommand(browser, stage, command);
  await breakDraft(stage);
  for (const shot of ACCIDENTS) await takePage(browser, stage, shot);
  await takeCommand(browser, stage, { name: 'cli-check', args: ['check'] });
  if (process.env['MORE_VIEWS'] === '1') for (const shot of MORE) await takePage(browser, stage, shot);
} finally {
  await browser.close();
  await stage.close();
}

/** What people do by mistake: the same counter again, a call where its maker does not run, script text without tags. */
async function breakDraft({ client }: Stage): Promise<void> {
  const params = { site: 'skerrywick' };
  const { data } = await client.call('showSnippet', { params: { ...params, snippet: 'visit-counter' } });
  const counter = data.parts[0]!.code.replaceAll('"', "'");
  const add = (name: string, placement: 'head-end' | 'body-end', code: string, include: string[] = []) =>
    client.call('createSnippet', {
      params,
      body: { name, pages: { include, exclude: [] }, parts: [{ placement, code }] },
    });
  await add('Old statistics', 'body-end', counter);
  await add('Fares event', 'body-end', "<script>glint('event', 'fares-seen');</script>", ['/fares']);
  await add('Slip notice', 'head-end', "<script>slipNotice.show('Works on the slip');</script>");
  await add('Slip notice library', 'head-end', '<script>window.slipNotice = { show: console.log };</script>');
  await add('Visit note', 'body-end', "window.visitNote = 'YOUR_NOTE_ID';");
}

/** A trial of the content policy, with what a visitor's browser reported. */
async function pickPlace(page: Page): Promise<void> {
  await page.getByLabel('Code', { exact: true }).fill('<p class="today">Next sailing: 14:30 from Hallow</p>');
  await page.getByRole('radio', { name: 'At an element' }).click();
  await page.getByRole('button', { name: 'Pick it on the page' }).click();
  const picture = page.getByTestId('page-picture');
  await picture.waitFor();
  const { width } = (await picture.boundingBox())!;
  await picture.click({ position: { x: width * 0.3, y: width * 0.24 } });
  await page.getByRole('dialog').getByLabel('After it').click();
  await page.getByText('What it is called').waitFor();
}

async function tryPolicy(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Start the trial' }).click();
  await page.getByRole('button', { name: 'Enforce it…' }).waitFor();
  const report = {
    'document-uri': 'http://skerrywick.localhost/fares',
    'effective-directive': 'img-src',
    'blocked-uri': 'http://tallymast.localhost/tell',
    disposition: 'report',
  };
  await send({
    ...{ port: stage.gatewayPort, host: 'code.example.com', path: '/policy-reports', method: 'POST' },
    body: JSON.stringify({ 'csp-report': report }),
  });
  await page.getByText('“Visit counter” loads it.', { exact: false }).waitFor();
}

/** A round of visits, made to its end. */
async function visit(body: VisitRoundInput): Promise<void> {
  await visitSite(stage.client, visited.site, body);
}

/** The chat's provider is down for a while, and somebody is told of it. */
async function seeItBreak(): Promise<void> {
  const misbehave = (how: string) =>
    localhostFetch(`http://parlanook.localhost:${stage.providerPort}/misbehave?how=${how}`, {
      method: 'POST',
    });
  await visit({});
  await misbehave('down');
  await visit({});
  await misbehave('');
  await visit({});
}

async function takePage(on: Browser, of: Stage, shot: Shot): Promise<void> {
  const { context, page, problems } = await openConsole(on, of, shot.view, !shot.isSignedOut);
  await page.goto(shot.path);
  await page.getByText(shot.awaits).first().waitFor();
  await shot.act?.(page);
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(OUT, `${shot.name}.png`) });
  if (problems.length > 0 && !shot.isSignedOut) console.error(`${shot.name}: ${problems.join('\n')}`);
  await context.close();
}

/** A terminal's view of a command, drawn from what it really wrote. */
async function takeCommand(
  on: Browser,
  of: Stage,
  { name, args }: { name: string; args: readonly string[] },
): Promise<void> {
  const env = {
    ...process.env,
    PRAGMATICA_TOKEN: of.token,
    PRAGMATICA_SERVER: of.server,
    PRAGMATICA_SITE: 'skerrywick',
    FORCE_COLOR: '1',
    XDG_CONFIG_HOME: mkdtempSync(join(tmpdir(), 'pragmatica-')),
  };
  const output = await new Promise<string>((done) => {
    execFile(
      process.execPath,
      [join(ROOT, 'packages/cli/bin/pragmatica.js'), ...args],
      // As wide as the picture: text wraps below where it begins.
      { env: { ...env, COLUMNS: '112' } },
      (_error, stdout, stderr) => done(stdout + stderr),
    );
  });
  const page = await on.newPage({ viewport: { width: 1000, height: 400 } });
  await page.setContent(
    `<style>body{margin:0;background:#10150f}pre{margin:0;padding:22px 26px;color:#dfe6dc;font:14px/1.5 'DejaVu Sans Mono',monospace;white-space:pre-wrap}b{color:#fff}.d{color:#8b988a}.c{color:#8fc7d9}.y{color:#e6b566}.g{color:#8fd0a0}.r{color:#f08a7c}</style><pre><span class="d">$</span> <b>pragmatica ${args.join(' ')}</b>\n\n${toHtml(output)}</pre>`,
  );
  await page.screenshot({ path: join(OUT, `${name}.png`), fullPage: true });
  await page.close();
}

function toHtml(text: string): string {
  const escaped = text.trimEnd().replace(/[&<>]/g, (character) => `&#${character.charCodeAt(0)};`);
  // eslint-disable-next-line no-control-regex -- terminal colours
  return escaped.replace(/\u001b\[(\d+)m/g, (_, code: string) => {
    const name = CLASSES[code];
    if (name === undefined) return '</span>';
    return name === 'b' ? '<span style="font-weight:700;color:#fff">' : `<span class="${name}">`;
  });
}
