import type { LinePlace, LineRelease } from '../types.js';
import type { Place, PlaceAt } from './place-at.js';
import { rulesHeld } from './reach.js';
import { isInOrder, scriptTag, stateOf } from './shared.js';

/** A script of a part: where it goes, itself, and what is waited for before the next one. */
type Entry = readonly [place: Text | undefined, script: HTMLScriptElement, loaded?: Promise<unknown>];

/** What is done to a part's markup once; its scripts that were written into the head already, by their number. */
interface Piece {
  readonly content: DocumentFragment;
  readonly written?: ReadonlyMap<HTMLScriptElement, string>;
}

/** A file that does not come holds up the parts behind it no longer than this. */
const PATIENCE_MS = 1e4;
/** Microtasks that a script may chain before the next one runs, as the parser would let them. */
const MICROTASKS = 20;
const CONSENT_LOOK_MS = 500;

/**
 * Applies a release in the visitor's browser. While the head is being parsed, its head parts are written where the line
 * stands, so that order and blocking are the parser's own; what of body parts has to run before `DOMContentLoaded` is
 * written there deferred and moved to its place. Everything else is put in when its place is there, one script after the
 * other. `placeAt` comes along where parts go to elements. Nothing here is called in this package: `npm run
 * build:one-line` makes `scripts.ts` of it.
 */
export const runRelease = (release: LineRelease, placeAt?: PlaceAt): void => {
  const page = document;
  const own = page.currentScript as HTMLScriptElement;
  const [parts, , , consent] = release;
  // The pinned form has no pointer before it.
  const state = page.pgmOne || stateOf([0, 0, []]);
  if (!state || state[3]) return;
  state[3] = true;
  const [line, live, trusted] = state;
  const nonce = line.nonce!;
  /** How far the visitor's clock is off, as far as that can be known. */
  const begin = Date.now();
  const skew = live[0] ? Math.min(Math.max(begin, live[0]), live[0] + live[1]) - begin : 0;

  /** Scripts that are ours, and what they have written. */
  const ours = new WeakMap<object, string>();
  const queue: Entry[] = [];
  /** Deferred ones and modules that run when the others have. */
  const late: Entry[] = [];
  let isBusy = false;
  /** Numbers of the parts that wait for their place, in plan order. */
  let waiting: number[] = [];
  const taken: number[] = [];
  const pieces: (Piece | 0)[] = [];
  /** Elements that parts have put in. */
  const shown: Element[][] = [];

  /** Hands the line's nonce on to what needs one. */
  const addNonce = (content: DocumentFragment): void => {
    if (nonce)
      content.querySelectorAll('script,style').forEach((element) => element.setAttribute('nonce', nonce));
  };

  /** Markup as the parser makes it of code within an element; the body where none is given. */
  const parse = (code: string, context?: Node | null): DocumentFragment => {
    const range = page.createRange();
    if (context) range.selectNodeContents(context);
    const content = range.createContextualFragment(trusted.createHTML(code));
    addNonce(content);
    // Only the parser of pages attaches declared shadow roots.
    content.querySelectorAll<HTMLTemplateElement>('template[shadowrootmode]').forEach((template) => {
      template.parentElement
        ?.attachShadow({ mode: template.getAttribute('shadowrootmode') as ShadowRootMode })
        .append(template.content);
      template.remove();
    });
    return content;
  };

  /** A script as one that runs when it is put in: parsed ones do not. */
  const copyOf = (script: HTMLScriptElement): HTMLScriptElement => {
    const copy = page.createElementNS(script.namespaceURI, 'script') as HTMLScriptElement;
    for (const { namespaceURI, name, value } of [...script.attributes])
      copy.setAttributeNS(
        namespaceURI,
        name,
        /src$|href$/.test(name)
          ? trusted.createScriptURL(value)
          : name.startsWith('on')
            ? trusted.createScript(value)
            : value,
      );
    copy.textContent = trusted.createScript(script.textContent);
    copy.async = script.hasAttribute('async');
    return copy;
  };

  const isModule = ({ type }: HTMLScriptElement): boolean => type === 'module';
  /** Runs when the page has been parsed, if it stood there. */
  const isLate = (script: HTMLScriptElement): unknown =>
    !script.hasAttribute('async') && (isModule(script) || (script.defer && script.src));
  const isAwaited = (script: HTMLScriptElement): unknown =>
    script.src &&
    !script.hasAttribute('async') &&
    !script.defer &&
    (!script.type || /(?:java|ecma)script/i.test(script.type));

  const loading = (script: HTMLScriptElement): Promise<unknown> =>
    new Promise((resolve) => {
      script.addEventListener('load', resolve);
      script.addEventListener('error', resolve);
      setTimeout(resolve, PATIENCE_MS);
    });

  /** Makes ready what of a part runs; its scripts leave marks where they go. */
  const entriesOf = (content: DocumentFragment, written?: Piece['written']): Entry[] =>
    [...content.querySelectorAll('script')].map((script) => {
      const number = written?.get(script);
      const standing = number && page.querySelector<HTMLScriptElement>(`[data-pgm="${number}"]`);
      if (standing) {
        delete standing.dataset['pgm'];
        standing.defer = script.defer;
        ours.set(standing, '');
        script.replaceWith(standing);
        return [undefined, standing, isLate(script) ? undefined : loading(standing)];
      }
      const place = new Text();
      script.replaceWith(place);
      return [place, copyOf(script)];
    });

  /** What a script of ours has written with `document.write` goes behind it. */
  const flush = (script: HTMLScriptElement): void => {
    const text = ours.get(script);
    if (!text) return;
    ours.set(script, '');
    const content = parse(text, script.parentNode);
    queue.unshift(...entriesOf(content));
    script.after(content);
  };

  const hasFired = (name: 'domContentLoadedEventStart' | 'loadEventStart'): boolean =>
    performance.timing[name] > 0;

  const run = async ([place, script, loaded]: Entry): Promise<void> => {
    if (place) {
      const { onload } = window;
      ours.set(script, '');
      place.replaceWith(script);
      // Its place may have gone with what it stood in.
      if (script.isConnected && isAwaited(script)) loaded = loading(script);
      // It would have been heard.
      if (window.onload !== onload && hasFired('loadEventStart'))
        setTimeout(() => {
          window.onload?.(new Event('load'));
        });
    }
    await loaded;
    flush(script);
  };

  const drain = async (): Promise<void> => {
    if (isBusy) return;
    isBusy = true;
    for (let entry = queue.shift(); entry; entry = queue.shift() || late.shift()) {
      try {
        await run(entry);
      } catch {
        // One part's failure is not the others'.
      }
      // eslint-disable-next-line @typescript-eslint/await-thenable -- a microtask, whatever is waited for
      for (let i = 0; i < MICROTASKS; i++) await i;
    }
    isBusy = false;
  };

  /** Puts a group of parts in; they keep their order. */
  const put = (numbers: readonly number[], [where, context]: Place): void => {
    const all = new DocumentFragment();
    for (const number of numbers) {
      try {
        const { content, written } = pieces[number] || { content: parse(parts[number]![2], context) };
        for (const entry of entriesOf(content, written))
          (entry[0] && isLate(entry[1]) ? late : queue).push(entry);
        shown[number] = [...content.children];
        all.append(content);
      } catch {
        // What cannot be parsed here is left out.
      }
    }
    where(all);
  };

  /** How a place takes parts, and the element that they come into; undefined while it is not there. */
  const placeOf = (place: LinePlace): Place | undefined => {
    const { head, body } = page;
    if (typeof place !== 'number') return placeAt!(place, ours, shown);
    const isEnd = place % 2;
    const element = (place < 2 ? head : body) as HTMLElement | null;
    if (!element || (place > 2 && page.readyState === 'loading')) return undefined;
    return [(content) => (isEnd ? element.append(content) : element.prepend(content)), element];
  };

  const observer = new MutationObserver(() => place());
  const place = (): void => {
    const groups: { [place: string]: number[] | undefined } = {};
    for (const number of waiting)
      (groups[`at ${parts[number]![0] as unknown as string}`] ||= []).push(number);
    for (const numbers of Object.values(groups) as number[][]) {
      const where = placeOf(parts[numbers[0]!]![0]);
      if (!where) continue;
      waiting = waiting.filter((number) => !numbers.includes(number));
      put(numbers, where);
    }
    void drain();
    observer.disconnect();
    if (waiting.length) observer.observe(page, { childList: true, subtree: true, attributeFilter: ['id'] });
  };

  /** Takes what has come into reach: each part once. */
  const take = (): void => {
    const isHeld = rulesHeld(release, live, Date.now() + skew);
    parts.forEach(([, rule], number) => {
      if (!taken[number] && isHeld(rule)) taken[number] = waiting.push(number);
    });
    waiting.sort((a, b) => a - b);
  };
  const viewOf = (): string => location.href.split('#')[0]!;
  let view = viewOf();
  /** Looks anew at what is in reach. What is for views begins again with each: what it has put in goes with its view. */
  const showAgain = (): void => {
    if (view !== (view = viewOf()))
      parts.forEach(([, , , isForViews], number) => {
        if (!isForViews) return;
        shown[number]?.forEach((element) => element.remove());
        pieces[number] = 0;
        waiting = waiting.filter((one) => one !== number);
        taken[number] = 0;
      });
    take();
    place();
  };
  /** Not before the application has shown what it has for the new address. */
  const again = (): unknown => setTimeout(showAgain);

  /** Markup of a head part with the line's nonce on what needs one. */
  const withNonce = (code: string): string => {
    if (!nonce) return code;
    const template = page.createElement('template');
    template.innerHTML = trusted.createHTML(code);
    addNonce(template.content);
    return template.innerHTML;
  };

  /** Writes what can only run in time from here. */
  const write = (): void => {
    let blocking = '';
    let heads = '';
    let deferred = '';
    for (const number of waiting) {
      const [where, , code] = parts[number]!;
      if (typeof where !== 'number') continue;
      if (where < 2) heads += withNonce(code);
      else {
        const written = new Map<HTMLScriptElement, string>();
        const content = parse(code);
        pieces[number] = { content, written };
        for (const script of content.querySelectorAll('script')) {
          if (!isAwaited(script) && !isLate(script)) continue;
          const mark = `${number}.${written.size}`;
          written.set(script, mark);
          const copy = copyOf(script);
          copy.dataset['pgm'] = mark;
          if (!isModule(script)) copy.defer = true;
          if (isLate(script)) deferred += copy.outerHTML;
          else blocking += copy.outerHTML;
        }
      }
    }
    waiting = waiting.filter((number) => !((parts[number]![0] as number) < 2));
    const text = blocking + heads + deferred;
    // Behind a file the parser runs what follows by itself, and lets each script's promises come between; this one is
    // there already.
    if (text) page.write(trusted.createHTML((own.src && scriptTag(own.src, nonce)) + text));
  };

  for (const name of ['write', 'writeln'] as const) {
    const original = page[name].bind(page);
    page[name] = (...texts: string[]): void => {
      const script = page.currentScript;
      const before = script && ours.get(script);
      if (before === undefined || before === null) original(...texts);
      else ours.set(script!, before + texts.join('') + (name === 'write' ? '' : '\n'));
    };
  }
  for (const target of [page, window]) {
    const original = target.addEventListener.bind(target) as EventTarget['addEventListener'];
    target.addEventListener = function (...given: Parameters<EventTarget['addEventListener']>) {
      const [name, listener] = given;
      const script = page.currentScript;
      const isOver =
        name === 'DOMContentLoaded'
          ? hasFired('domContentLoadedEventStart')
          : name === 'load' && target === window && hasFired('loadEventStart');
      // What a part waits for may be over, as it never is for one that stands in the page.
      if (!isOver || !listener || !script || !ours.has(script)) original(...given);
      else
        setTimeout(() => {
          const event = new Event(name);
          if (typeof listener === 'function') listener.call(target, event);
          else listener.handleEvent(event);
        });
    } as typeof target.addEventListener;
  }

  take();
  if (isInOrder(own)) write();
  place();
  page.addEventListener('readystatechange', place);
  const { navigation } = window as Window & { navigation?: EventTarget };
  if (navigation) navigation.addEventListener('currententrychange', again);
  else {
    addEventListener('popstate', again);
    for (const name of ['pushState', 'replaceState'] as const) {
      const original = history[name].bind(history);
      history[name] = (...given) => {
        original(...given);
        again();
      };
    }
  }
  if (consent) {
    let { cookie } = page;
    setInterval(() => {
      if (cookie === (cookie = page.cookie)) return;
      again();
    }, CONSENT_LOOK_MS);
  }
};
