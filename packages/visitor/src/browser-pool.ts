import { startChromium, type ChromiumOptions, type StartedChromium } from './chromium.js';
import { FreshWindows } from './fresh-windows.js';
import { startGuardProxy, type GuardOptions, type GuardProxy } from './guard-proxy.js';
import type { VisitOrder } from './order.js';
import { visit, type Visited } from './visit.js';

export interface PoolOptions extends Pick<ChromiumOptions, 'executable'> {
  /** Checks what the browser asks for; it asks by itself when left out. */
  readonly guard?: GuardOptions | undefined;
  /** After so many visits a new browser is started: what one gathers over time is given back. @defaultValue 150 */
  readonly visitsPerBrowser?: number;
  /** A browser that nobody needs for so long is closed. @defaultValue 120,000 */
  readonly idleMs?: number;
}

interface PooledChromium extends StartedChromium {
  readonly windows: FreshWindows;
}

/**
 * A browser that is warm: started when somebody needs it, shared by visits (each has a profile of its own), replaced when it is
 * worn out or has crashed, and closed when nobody needs it.
 */
export class BrowserPool {
  readonly #options: Required<Omit<PoolOptions, 'executable' | 'guard'>> & PoolOptions;
  #current: Promise<PooledChromium> | undefined;
  #proxy: Promise<GuardProxy> | undefined;
  #visits = 0;
  #busy = 0;
  #idle: NodeJS.Timeout | undefined;

  constructor(options: PoolOptions = {}) {
    this.#options = { visitsPerBrowser: 150, idleMs: 120_000, ...options };
  }

  /** @throws NoBrowserError where the machine has none */
  async visit(order: VisitOrder): Promise<Visited> {
    clearTimeout(this.#idle);
    this.#busy++;
    try {
      const { windows } = await this.#browser();
      return await visit(windows, order);
    } finally {
      if (--this.#busy === 0) this.#rest();
    }
  }

  /** The browser's name, and how it is kept apart. @throws NoBrowserError */
  async describe(): Promise<{
    readonly name: string;
    readonly isSandboxed: boolean;
    readonly isOtherUser: boolean;
  }> {
    const { browser, isSandboxed, isOtherUser } = await this.#browser();
    return { name: `Chromium ${browser.version()}`, isSandboxed, isOtherUser };
  }

  async close(): Promise<void> {
    clearTimeout(this.#idle);
    await this.#drop();
    const proxy = await this.#proxy?.catch(() => undefined);
    this.#proxy = undefined;
    await proxy?.close();
  }

  async #browser(): Promise<PooledChromium> {
    const before = this.#current;
    const started = await before?.catch(() => undefined);
    const isWorn = this.#visits >= this.#options.visitsPerBrowser && this.#busy <= 1;
    if (started?.browser.isConnected() === true && !isWorn) {
      this.#visits++;
      return started;
    }
    // Of several that find it gone, one starts the next.
    if (this.#current === before) {
      void started?.close();
      this.#visits = 0;
      this.#current = this.#start();
      this.#current.catch(() => {
        this.#current = undefined;
      });
    }
    this.#visits++;
    return this.#current!;
  }

  async #start(): Promise<PooledChromium> {
    const { guard, executable } = this.#options;
    if (guard) this.#proxy ??= startGuardProxy(guard);
    const started = await startChromium({ executable, proxy: (await this.#proxy)?.address });
    return { ...started, windows: new FreshWindows(started.browser) };
  }

  #rest(): void {
    this.#idle = setTimeout(() => void this.#drop(), this.#options.idleMs);
    this.#idle.unref();
  }

  async #drop(): Promise<void> {
    const current = this.#current;
    this.#current = undefined;
    const started = await current?.catch(() => undefined);
    await started?.close();
  }
}
