import { createServer } from 'node:http';
import {
  compileLine,
  insert,
  lineHours,
  lineName,
  pasteBlocks,
  pageAddress,
  pointerFile,
  prepareParts,
  ReleasePlanner,
  releaseFile,
  type Snapshot,
} from '@pragmatica/core';
import type { Browser, Page } from 'playwright-core';
import { startBrowser } from './browser.js';
import { listen } from './stage.js';

/** How the parts come into a page: as if they stood there, by the line in order, or by the line that waits for nothing. */
export type Form = 'standing' | 'order' | 'async' | 'foot' | 'pasted';

export interface LineSite {
  readonly port: number;
  /** What is served from now on. */
  use(site: LinePageSet): void;
  close(): void;
}

export interface LinePageSet {
  readonly snapshot: Snapshot;
  /** HTML by path; `<!--line-->` is where the line goes. */
  readonly pages: Readonly<Record<string, string>>;
  readonly headers?: Readonly<Record<string, string>>;
  readonly nonce?: string;
  /** Shown by the clock of the server instead of the time it is. */
  readonly now?: number;
}

const DAY_MS = 86_400_000;

/** A site whose pages get a set in each form: `/standing/path`, `/order/path` and so on; files under `/files/`. */
export async function startLineSite(): Promise<LineSite> {
  let site: LinePageSet | undefined;
  const { server, port } = await listen(
    createServer((request, response) => {
      const { snapshot, pages, headers = {}, nonce, now = Date.now() } = site!;
      const { pathname, search } = new URL(request.url!, 'http://x.test');
      const name = lineName(snapshot.site.key, 'live');
      const compiled = compileLine(snapshot, 'live');
      const release = releaseFile(name, compiled);
      const script = { 'content-type': 'text/javascript; charset=utf-8' };
      if (pathname === `/one/${name}.js`) {
        const live = [site!.now ?? 0, 60_000, lineHours(compiled, now, 7 * DAY_MS)] as const;
        response.writeHead(200, script).end(pointerFile(name, release.digest, live, 'test').text);
        return;
      }
      if (pathname === `/one/${release.path}`) {
        response
          .writeHead(200, { ...script, 'cache-control': 'public, max-age=31536000, immutable' })
          .end(release.text);
        return;
      }
      const file = /^\/files\/(?:(\d+)\/)?(.*)\.js$/.exec(pathname);
      if (file) {
        const [, delay = '0', said] = file;
        const text =
          new URLSearchParams(search).get('run') ?? `(window.heard??=[]).push(${JSON.stringify(said)})`;
        setTimeout(() => response.writeHead(200, script).end(text), Number(delay));
        return;
      }
      const [, form, path] = /^\/(standing|order|async|foot|pasted)(\/.*)$/.exec(pathname) ?? [];
      const page = path === undefined ? undefined : pages[path];
      if (page === undefined) {
        response.writeHead(404).end();
        return;
      }
      const attribute = `${form === 'async' ? ' async' : ''}${nonce ? ` nonce="${nonce}"` : ''}`;
      const blocks = form === 'pasted' ? pastedInto(snapshot, Object.keys(pages), now) : undefined;
      const line = form === 'standing' ? '' : `<script${attribute} src="/one/${name}.js"></script>`;
      const html = page
        .replace('<!--line-->', () => blocks?.head ?? (form === 'foot' ? '' : line))
        .replace('<!--foot-->', () => blocks?.foot ?? (form === 'foot' ? line : ''))
        .replace('NOTE', 'window.heard??=[];window.note=(x)=>heard.push(x);');
      const planner = new ReleasePlanner(snapshot, 'live');
      const load = { device: 'desktop', consent: [], at: now } as const;
      const { parts } = planner.plan({ ...load, page: pageAddress(path! + search) });
      const bytes =
        form === 'standing' ? insert(Buffer.from(html), prepareParts(parts)).page : Buffer.from(html);
      response.writeHead(200, { 'content-type': 'text/html; charset=utf-8', ...headers }).end(bytes);
    }),
  );
  return {
    port,
    use: (next) => (site = next),
    close: () => {
      server.closeAllConnections();
      server.close();
    },
  };
}

/** What its owner has pasted into the boxes for the head and the foot of all pages. */
function pastedInto(
  snapshot: Snapshot,
  pages: readonly string[],
  now: number,
): { readonly head: string; readonly foot: string } {
  const boxes = [
    { kind: 'site-head', name: 'Head' },
    { kind: 'site-foot', name: 'Foot' },
  ] as const;
  const { blocks } = pasteBlocks(snapshot, { environment: 'live', boxes, release: 1, pages, now });
  const of = (kind: string): string => blocks.find(({ box }) => box.kind === kind)?.text ?? '';
  return { head: of('site-head'), foot: of('site-foot') };
}

/** What a page came to. */
export interface Seen {
  /** What scripts noted, in order. */
  readonly heard: readonly string[];
  /** The elements of the page, without the line and what it brings. */
  readonly html: string;
  readonly errors: readonly string[];
}

/** Opens a page and waits until it is quiet. */
export async function see(
  browser: Browser,
  address: string,
  { act, settleMs = 120 }: { readonly act?: (page: Page) => Promise<void>; readonly settleMs?: number } = {},
): Promise<Seen> {
  const context = await browser.newContext();
  const page = await context.newPage();
  const errors: string[] = [];
  page.on('pageerror', ({ message }) => errors.push(message));
  page.on('console', (message) => {
    // Pictures of the page's own that are not there, and when, are nobody's concern here.
    if (message.type() === 'error' && !message.text().startsWith('Failed to load resource'))
      errors.push(message.text());
  });
  await page.goto(address, { waitUntil: 'load' });
  await act?.(page);
  await page.waitForTimeout(settleMs);
  const seen = await page.evaluate(() => {
    const copy = document.documentElement.cloneNode(true) as HTMLElement;
    copy.querySelectorAll('script[src*="/one/"]').forEach((line) => line.remove());
    copy.querySelectorAll('[nonce]').forEach((one) => one.removeAttribute('nonce'));
    return {
      heard: (window as unknown as { heard: string[] }).heard,
      html: copy.outerHTML.replace(/\s+/g, ' ').replace(/> </g, '><'),
    };
  });
  await context.close();
  return { ...seen, errors };
}

/** A browser and a site for a suite, whose tests ask for both. */
export function useLineSite(): () => { readonly browser: Browser; readonly site: LineSite } {
  let browser: Browser;
  let site: LineSite;
  before(async () => {
    browser = await startBrowser();
    site = await startLineSite();
  });
  after(async () => {
    site.close();
    await browser.close();
  });
  return () => ({ browser, site });
}
