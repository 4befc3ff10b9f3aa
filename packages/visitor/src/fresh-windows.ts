import { randomBytes } from 'node:crypto';
import { DEVICE_WINDOWS, type Device } from '@pragmatica/core';
import type { Browser, BrowserContext, CDPSession, Page } from 'playwright-core';
import { callInPage } from './in-page.js';
import { watchPage } from './page/watch.js';
import { listenIn } from './recorder.js';

/** A window of a profile that nobody has used, with everything switched on that a visit is told by. */
export interface FreshWindow {
  readonly context: BrowserContext;
  readonly page: Page;
  readonly session: CDPSession;
  readonly mainFrame: string;
  /** Marks what the page's watch says, and where it stands in the window. */
  readonly token: string;
}

export interface WindowShape {
  readonly device: Device;
  /** In CSS pixels. @defaultValue the device's own */
  readonly width?: number;
}

/** Timers of a page that are due later are not waited for. */
const HORIZON_MS = 5_000;
/** Visits go on in windows of few shapes. */
const MAX_SPARE = 3;
/** About when the page before is loaded, and is waited for: there is time for something else. */
const AHEAD_MS = 300;

/** Browsers as most people have them; what follows is this one's own number. */
const AGENTS: Readonly<Record<Device, (version: string) => string>> = {
  desktop: (version) =>
    `Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/${version}.0.0.0 Safari/537.36`,
  tablet: (version) =>
    `Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/${version}.0.0.0 Safari/537.36`,
  phone: (version) =>
    `Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/${version}.0.0.0 Mobile Safari/537.36`,
};

const FORM_FACTORS: Readonly<Record<Device, string>> = {
  desktop: 'Desktop',
  tablet: 'Tablet',
  phone: 'Mobile',
};

/**
 * The windows of one browser. While a visit goes on, the window of the next is opened ahead: most visits come in a row, and a
 * profile takes as long to make as a small page to load.
 */
export class FreshWindows {
  readonly #spare = new Map<string, Promise<FreshWindow | undefined>>();

  constructor(readonly browser: Browser) {}

  /** A window for one visit. Whoever takes it closes its context. */
  async take(shape: WindowShape): Promise<FreshWindow> {
    const key = `${shape.device} ${shape.width ?? ''}`;
    const spare = this.#spare.get(key);
    this.#spare.delete(key);
    const ready = await spare;
    setTimeout(() => this.#openAhead(key, shape), AHEAD_MS).unref();
    return ready !== undefined && !ready.page.isClosed() ? ready : openWindow(this.browser, shape);
  }

  #openAhead(key: string, shape: WindowShape): void {
    if (this.#spare.has(key) || !this.browser.isConnected()) return;
    const spare = openWindow(this.browser, shape).catch(() => undefined);
    this.#spare.set(key, spare);
    void spare.then((window) =>
      window?.page.once('crash', () => {
        if (this.#spare.get(key) === spare) this.#spare.delete(key);
      }),
    );
    const [oldest] = this.#spare.keys();
    if (this.#spare.size <= MAX_SPARE || oldest === undefined) return;
    void this.#spare.get(oldest)?.then((window) => window?.context.close().catch(() => undefined));
    this.#spare.delete(oldest);
  }
}

async function openWindow(browser: Browser, { device, width }: WindowShape): Promise<FreshWindow> {
  const [version = ''] = browser.version().split('.', 1);
  const isTouch = device !== 'desktop';
  const context = await browser.newContext({
    userAgent: AGENTS[device](version),
    viewport: { width: width ?? DEVICE_WINDOWS[device].width, height: DEVICE_WINDOWS[device].height },
    isMobile: isTouch,
    hasTouch: isTouch,
    serviceWorkers: 'block',
    acceptDownloads: false,
    ignoreHTTPSErrors: false,
    locale: 'en-GB',
  });
  try {
    const page = await context.newPage();
    const session = await context.newCDPSession(page);
    const token = `pragmatica-${randomBytes(9).toString('base64url')}`;
    const [{ frameTree }] = await Promise.all([
      session.send('Page.getFrameTree'),
      listenIn(session),
      tellDevice(session, device, version),
      page.addInitScript({ content: callInPage(watchPage, { token, horizonMs: HORIZON_MS }) }),
    ]);
    return { context, page, session, mainFrame: frameTree.frame.id, token };
  } catch (error) {
    await context.close().catch(() => undefined);
    throw error;
  }
}

/** What requests say of the device (User-Agent Client Hints): a tablet is no phone, though it is touched. */
async function tellDevice(session: CDPSession, device: Device, version: string): Promise<void> {
  const isTouch = device !== 'desktop';
  await session.send('Emulation.setUserAgentOverride', {
    userAgent: AGENTS[device](version),
    acceptLanguage: 'en-GB,en',
    userAgentMetadata: {
      brands: [
        { brand: 'Chromium', version },
        { brand: 'Not=A?Brand', version: '24' },
      ],
      platform: isTouch ? 'Android' : 'Linux',
      platformVersion: '',
      architecture: '',
      model: '',
      mobile: device === 'phone',
      formFactors: [FORM_FACTORS[device]],
    },
  });
}
