/* eslint-disable @typescript-eslint/unbound-method -- what is wrapped is called on what it belongs to */
/*
 * What runs in the page itself, before anything of the page does. Everything here is handed to the browser as text, so
 * each function stands on its own.
 */

export interface WatchOptions {
  /** Marks what is said to us on the console. */
  readonly token: string;
  /** Timers that are due later than so many milliseconds after they were set are not waited for. */
  readonly horizonMs: number;
}

/**
 * Tells who writes cookies and storage (the stack comes with a message on the console), and counts the timers that a
 * page still waits for, and the names that it has made: by `window[Symbol.for(token)]`. All that it wraps does what it did.
 */
export function watchPage({ token, horizonMs }: WatchOptions): void {
  const before = new Set(Object.getOwnPropertyNames(window));
  const { debug } = console;
  const tell = (kind: string, key: string): void => {
    debug.call(console, token, kind, key);
  };
  const cookie = Object.getOwnPropertyDescriptor(Document.prototype, 'cookie');
  if (cookie?.set)
    Object.defineProperty(Document.prototype, 'cookie', {
      ...cookie,
      set(this: Document, value: unknown) {
        const text = String(value);
        const [pair = ''] = text.split(';');
        const at = pair.indexOf('=');
        if (!/;\s*max-age\s*=\s*(?:0|-)/i.test(text) && !/;\s*expires\s*=[^;]*\b1970\b/i.test(text))
          tell('cookie', pair.slice(0, Math.max(0, at)).trim());
        cookie.set!.call(this, value);
      },
    });
  const { setItem } = Storage.prototype;
  Storage.prototype.setItem = function (this: Storage, key: unknown, value: unknown): void {
    let kind = 'localStorage';
    try {
      if (this === sessionStorage) kind = 'sessionStorage';
    } catch {
      // Where storage is forbidden the call below says so.
    }
    tell(kind, String(key));
    setItem.call(this, String(key), String(value));
  };

  type Later = (handler: TimerHandler, delay?: number, ...args: unknown[]) => number;
  const later = window.setTimeout as unknown as Later;
  const clear = window.clearTimeout as unknown as (id: number | undefined) => void;
  const due = new Map<number, number>();
  let depth = 0;
  const wrapped: Later = (handler, delay, ...args) => {
    const ms = Number(delay) || 0;
    // What sets itself again and again is a clock of the page, and never ends.
    const isOwn = typeof handler === 'function' && depth < 3 && ms > 0 && ms <= horizonMs;
    if (!isOwn) return later.call(window, handler, delay, ...args);
    const at = depth + 1;
    const id = later.call(
      window,
      function (this: unknown, ...given: unknown[]) {
        due.delete(id);
        const before = depth;
        depth = at;
        try {
          (handler as (...all: unknown[]) => void).apply(this, given);
        } finally {
          depth = before;
        }
      },
      delay,
      ...args,
    );
    due.set(id, performance.now() + ms);
    return id;
  };
  window.setTimeout = wrapped as unknown as typeof window.setTimeout;
  window.clearTimeout = ((id: number | undefined) => {
    if (id !== undefined) due.delete(id);
    clear.call(window, id);
  }) as typeof window.clearTimeout;
  Object.defineProperty(window, Symbol.for(token), {
    value: {
      timers: () => due.size,
      /** Of the page’s animations and transitions those that end, and are not over yet. */
      moves: () =>
        document
          .getAnimations()
          .filter(
            ({ playState, effect }) =>
              playState === 'running' && Number(effect?.getComputedTiming().endTime) <= horizonMs,
          ).length,
      globals: () => Object.getOwnPropertyNames(window).filter((name) => !before.has(name)),
    },
  });
}

/** Lets a page's clock go ahead, or behind, by so many milliseconds; its timers run as ever. */
export function shiftClock(clockShift: number): void {
  const Real = Date;
  const shifted = function (this: unknown, ...args: unknown[]): unknown {
    const now = Real.now() + clockShift;
    // eslint-disable-next-line @typescript-eslint/no-unnecessary-condition -- called without new it is undefined
    if (!new.target) return new Real(now).toString();
    const made = Reflect.construct(Real, args.length > 0 ? args : [now]) as Date;
    const target = new.target as unknown as { readonly prototype: object };
    if (target.prototype !== Real.prototype) Object.setPrototypeOf(made, target.prototype);
    return made;
  };
  Object.assign(shifted, { UTC: Real.UTC, parse: Real.parse, now: () => Real.now() + clockShift });
  shifted.prototype = Real.prototype;
  Real.prototype.constructor = shifted;
  window.Date = shifted as unknown as DateConstructor;
}
