import { chromium, type Browser, type BrowserContext, type Page, type Request } from 'playwright-core';
import { ADMIN, type Stage } from './stage.js';

/** Starts Chromium as the machine has it; nothing of it looks for the network. */
export async function startBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env['PRAGMATICA_CHROMIUM'] ?? '/usr/bin/chromium-headless-shell',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--no-first-run',
    ],
  });
}

export interface View {
  readonly width: number;
  readonly height: number;
  readonly theme: 'light' | 'dark';
}

export const DESKTOP: View = { width: 1280, height: 800, theme: 'light' };

/** A page of the console; `problems` collects what the browser complains about. */
export interface ConsolePage {
  readonly context: BrowserContext;
  readonly page: Page;
  readonly problems: string[];
}

/** Opens the console, signed in unless said otherwise. */
export async function openConsole(
  browser: Browser,
  stage: Stage,
  view: View = DESKTOP,
  isSignedIn = true,
): Promise<ConsolePage> {
  const context = await browser.newContext({
    locale: 'en-GB',
    viewport: { width: view.width, height: view.height },
    colorScheme: view.theme,
    baseURL: stage.server,
  });
  if (isSignedIn) {
    const answer = await context.request.post(`${stage.server}/api/v1/sign-in`, { data: ADMIN });
    if (!answer.ok()) throw new Error(`sign-in: ${answer.status()} ${await answer.text()}`);
  }
  const page = await context.newPage();
  page.setDefaultTimeout(90_000);
  const problems: string[] = [];
  page.on('console', (message) => {
    if (message.type() === 'error') problems.push(message.text());
  });
  page.on('pageerror', (error) => problems.push(String(error)));
  underWay.set(page, new Set());
  const asked = underWay.get(page)!;
  page.on('request', (request) => {
    if (!/\/live\?/.test(request.url())) asked.add(request);
  });
  const over = (request: Request): boolean => asked.delete(request);
  page.on('requestfinished', over);
  page.on('requestfailed', over);
  return { context, page, problems };
}

/** What a page has asked for and not got yet, but for what tells it of changes: that never ends. */
const underWay = new WeakMap<Page, Set<Request>>();

/** Waits until a page of `openConsole` has asked for nothing more for half a second. */
export async function quiet(page: Page): Promise<void> {
  const asked = underWay.get(page)!;
  for (let calm = 0; calm < 10; calm = asked.size === 0 ? calm + 1 : 0) await page.waitForTimeout(50);
}

/**
 * Puts a text in the place of all that a code editor holds. An editor that has just come may still set its own
 * selection, so what it holds in the end is what counts.
 */
export async function replaceCode(page: Page, text: string, index = 0): Promise<void> {
  const editor = page.locator('.cm-content').nth(index);
  for (let attempt = 0; attempt < MAX_ATTEMPTS; attempt++) {
    await editor.click();
    await page.keyboard.press('Control+a');
    await page.keyboard.insertText(text);
    if (shown(await editor.locator('.cm-line').allTextContents()) === shown(text.split('\n'))) return;
  }
  throw new Error(`The editor does not take the text: ${await editor.innerText()}`);
}

const MAX_ATTEMPTS = 5;

/** Without line ends, which an editor shows in its own way. */
function shown(lines: readonly string[]): string {
  return lines.join('\n').trimEnd();
}

/** Takes a part of the page strip in hand with the keyboard, and waits until it is. */
export async function pickUp(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name }).focus();
  await page.keyboard.press('Space');
  await page.locator('[aria-pressed="true"]').waitFor();
  // The keys are listened to from the next turn of the event loop on.
  await page.evaluate(() => new Promise((resolve) => setTimeout(resolve)));
}

/** Chooses a page in the field that suggests pages. */
export async function choosePage(page: Page, label: string, path: string): Promise<void> {
  await page.getByLabel(label).fill(path);
  await page.getByRole('option', { name: path, exact: true }).click();
}

/** Opens what a form has folded into one line. */
export async function unfold(page: Page, subject: string): Promise<void> {
  await page.getByRole('button', { name: `Change ${subject}` }).click();
}
