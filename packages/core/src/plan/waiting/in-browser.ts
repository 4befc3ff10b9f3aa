import type { VisitorRules } from '../../reach/index.js';

/**
 * What runs in the visitor's browser around a part that waits for something that only it can know. Nothing here is
 * called in this package: `npm run build:waiting` makes `script.ts` of it, which goes into pages.
 */

export interface WaitingOptions extends Omit<VisitorRules, 'who'> {
  readonly snippet: string;
  /** 1 for a first visit, 2 for a later one. */
  readonly visits?: 1 | 2;
}

/** What the parts that wait on a page share. */
interface PageMemory {
  /** The number of this visit, and when its last page was opened. */
  visit?: [number: number, at: number];
  /** By snippet, whether it has come lately: decided once for a page, for all of its parts. */
  readonly lately: { [snippet: string]: boolean };
}

declare global {
  interface Document {
    pgm?: PageMemory;
  }
}

/** A visit is over after half an hour. */
const VISIT_MS = 18e5;
const DAY_MS = 864e5;

/**
 * The script stands behind a `template` that holds the code, which a browser parses and does not run (HTML Standard,
 * 4.12.3). When all that is waited for has happened, the code is put in front of it. Where a browser keeps nothing,
 * everybody is new, and what may come once only does not come.
 */
export const waitForVisitor = (options: WaitingOptions): void => {
  const { snippet, everyDays, afterSeconds, afterScroll } = options;
  // What is said once more by a shorter name is no shorter to read, but to send.
  const page = document;
  const script = page.currentScript!;
  const { content } = script.previousElementSibling as HTMLTemplateElement;
  const memory = page.pgm || (page.pgm = { lately: {} });
  const now = Date.now();
  /** Conditions that have not come true. */
  let open = 0;

  const stored = <T>(key: string, value?: T): T | undefined => {
    try {
      key = 'pragmatica-' + key;
      if (value) localStorage[key] = JSON.stringify(value);
      return JSON.parse(localStorage[key] as string) as T;
    } catch {
      return undefined;
    }
  };

  const comeTrue = (): void => {
    if (--open > 0 || innerWidth < options.minWidth! || innerWidth > options.maxWidth!) return;
    if (everyDays && !stored(snippet, now)) return;
    const code = page.importNode(content, true);
    const scripts = Array.from(code.querySelectorAll('script'), (element) => {
      const place = new Text();
      element.replaceWith(place);
      return [place, element] as const;
    });
    // Scripts run one after the other, as they would have: one with a file is waited for before the next.
    const runNext = (): void => {
      const [place, element] = scripts.shift() || [];
      if (!element) return;
      const isAwaited = element.src && !element.hasAttribute('async') && !/json/.test(element.type);
      if (isAwaited) {
        element.async = false;
        element.onload = element.onerror = runNext;
      }
      place!.replaceWith(element);
      if (!isAwaited) runNext();
    };
    script.before(code);
    runNext();
  };

  const listen = (names: readonly string[], hasComeTrue: (event: MouseEvent) => boolean): void => {
    let isOpen = true;
    open++;
    for (const name of names)
      addEventListener(name, (event) => {
        if (isOpen && hasComeTrue(event as MouseEvent)) {
          isOpen = false;
          comeTrue();
        }
      });
  };

  if (options.visits) {
    let { visit } = memory;
    if (!visit) {
      const [number, at] = stored<[number, number]>('visit') || [0, 0];
      memory.visit = visit = [now - at > VISIT_MS ? number + 1 : number, now];
      stored('visit', visit);
    }
    if (visit[0] > 1 !== options.visits > 1) return;
  }
  if (everyDays) {
    const { lately } = memory;
    if (!(snippet in lately)) lately[snippet] = now - (stored<number>(snippet) || 0) < everyDays * DAY_MS;
    if (lately[snippet]) return;
  }
  if (afterSeconds) {
    open++;
    setTimeout(comeTrue, afterSeconds * 1e3);
  }
  if (afterScroll)
    listen(
      ['scroll', 'load'],
      () => ((scrollY + innerHeight) / page.documentElement.scrollHeight) * 100 >= afterScroll,
    );
  if (options.onLeaving) listen(['mouseout'], (event) => !event.relatedTarget && event.clientY < 1);
  if (!open) comeTrue();
};
