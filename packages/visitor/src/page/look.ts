import type {
  CoveredControl,
  LayoutShift,
  LongTask,
  Rectangle,
  SeenControl,
  SeenElement,
} from '@pragmatica/core';

/*
 * What is asked of a page at the end of a page load, in a world of its own beside the page's scripts. Everything here is
 * handed to the browser as text, so each function stands on its own.
 */

/** An element by itself: what a look at it says, but for where it came from. */
export type LookedAt = Omit<SeenElement, 'stack'>;

export interface PageLook {
  readonly elements: readonly LookedAt[];
  /** For each of the elements given, its index in those seen; -1 where it has left the page. */
  readonly madeAt: readonly number[];
  readonly covered: readonly CoveredControl[];
  readonly controls: readonly SeenControl[];
  readonly readable: number;
  readonly size: { readonly width: number; readonly height: number };
  readonly window: { readonly width: number; readonly height: number };
  readonly scrolled: number;
}

export interface LookWish {
  /** Selectors of CSS; those that are none mean nothing. */
  readonly probes: readonly string[];
  /** At most so many controls are looked at. */
  readonly maxControls: number;
}

/**
 * Looks at elements: those given, those that lie over the page, those that the probes mean, and at controls that cannot
 * be reached.
 *
 * @param made - elements that scripts have made
 * @returns what was seen, and the elements themselves in `window.seenElements` of the same world
 */
export function lookAtPage({ probes, maxControls }: LookWish, ...made: readonly Element[]): PageLook {
  const { innerWidth, innerHeight } = window;
  const MAX_FLOATING = 40;
  const MAX_TEXT = 80;
  const clip = (text: string): string => {
    const plain = text.replace(/\s+/g, ' ').trim();
    return plain.length > MAX_TEXT ? `${plain.slice(0, MAX_TEXT - 1)}…` : plain;
  };
  /** Nodes that are looked at for the text of one element. */
  const MAX_NODES = 400;
  /**
   * What can be read in an element: as `innerText` has it, but what stands in boxes of their own is apart, such as buttons
   * that touch each other.
   */
  const textOf = (root: Element): string => {
    const walker = document.createTreeWalker(root, NodeFilter.SHOW_ELEMENT | NodeFilter.SHOW_TEXT, (node) => {
      if (!(node instanceof Element)) return NodeFilter.FILTER_ACCEPT;
      const { display, visibility } = getComputedStyle(node);
      return display === 'none' || visibility === 'hidden'
        ? NodeFilter.FILTER_REJECT
        : NodeFilter.FILTER_ACCEPT;
    });
    const boxAround = (text: Node): Element => {
      let box = text.parentElement!;
      while (box !== root && getComputedStyle(box).display === 'inline') box = box.parentElement!;
      return box;
    };
    let text = '';
    let last: Element | undefined;
    for (let count = 0; count < MAX_NODES && text.length < MAX_TEXT * 4 && walker.nextNode(); count++) {
      const node = walker.currentNode;
      if (!(node instanceof Text) || node.data.trim() === '') {
        text += node instanceof Text || node instanceof HTMLBRElement ? ' ' : '';
        continue;
      }
      const box = boxAround(node);
      text += box === last ? node.data : ` ${node.data}`;
      last = box;
    }
    return text;
  };
  const boxOf = (element: Element): Rectangle => {
    const { x, y, width, height } = element.getBoundingClientRect();
    const round = (value: number): number => Math.round(value * 10) / 10;
    return { x: round(x), y: round(y), width: round(width), height: round(height) };
  };
  const tagOf = (element: Element): string => {
    const shown = [...element.attributes]
      .filter(({ name }) => /^(id|class|src|href|name|type|role|title|aria-label|data-[\w-]+)$/.test(name))
      .slice(0, 4)
      .map(({ name, value }) => ` ${name}="${clip(value)}"`);
    return `<${element.localName}${shown.join('')}>`;
  };
  const selectorOf = (element: Element): string => {
    const root = element.getRootNode() as Document | ShadowRoot;
    const isOne = (selector: string): boolean => root.querySelectorAll(selector).length === 1;
    const steps: string[] = [];
    for (let one: Element | null = element; one && steps.length < 8; one = one.parentElement) {
      if (one.id !== '') {
        const byId = `#${CSS.escape(one.id)}`;
        if (isOne(byId)) return [byId, ...steps].join(' > ');
      }
      let step = CSS.escape(one.localName);
      const parent: Element | null = one.parentElement;
      const alike = parent ? [...parent.children].filter((other) => other.localName === one.localName) : [];
      if (alike.length > 1) step += `:nth-of-type(${alike.indexOf(one) + 1})`;
      steps.unshift(step);
      if (isOne(steps.join(' > '))) break;
    }
    return steps.join(' > ');
  };
  /** The topmost element at a point, through open shadow roots. */
  const topmost = (x: number, y: number): Element | null => {
    let hit = document.elementFromPoint(x, y);
    while (hit?.shadowRoot) {
      const inner = hit.shadowRoot.elementFromPoint(x, y);
      if (!inner || inner === hit) break;
      hit = inner;
    }
    return hit;
  };
  const holds = (outer: Node, inner: Node | null): boolean => {
    for (let one = inner; one; one = one.parentNode ?? (one instanceof ShadowRoot ? one.host : null))
      if (one === outer) return true;
    return false;
  };
  const isInWindow = (x: number, y: number): boolean => x >= 0 && y >= 0 && x < innerWidth && y < innerHeight;
  /** No script of the page runs while we look, so styles stay; each is asked for once. */
  const veils = new Map<Element, 'display: none' | 'opacity: 0' | undefined>();
  const veilOf = (element: Element): 'display: none' | 'opacity: 0' | undefined => {
    if (veils.has(element)) return veils.get(element);
    const { display, opacity } = getComputedStyle(element);
    const veil = display === 'none' ? 'display: none' : Number(opacity) < 0.02 ? 'opacity: 0' : undefined;
    veils.set(element, veil);
    return veil;
  };
  const whyHidden = (element: Element): string | undefined => {
    for (let one: Element | null = element; one; one = one.parentElement ?? hostOf(one)) {
      const veil = veilOf(one);
      if (veil !== undefined) return one === element ? veil : `${veil} on ${tagOf(one)}`;
      if (one !== element) continue;
      const { visibility } = getComputedStyle(one);
      if (visibility !== 'visible') return `visibility: ${visibility}`;
    }
    const { width, height } = element.getBoundingClientRect();
    return width < 2 || height < 2 ? 'no size' : undefined;
  };
  const hostOf = (element: Element): Element | null => {
    const root = element.getRootNode();
    return root instanceof ShadowRoot ? root.host : null;
  };
  const positionOf = (element: Element): SeenElement['position'] => {
    for (
      let one: Element | null = element;
      one && one !== document.body;
      one = one.parentElement ?? hostOf(one)
    ) {
      const { position } = getComputedStyle(one);
      if (position === 'fixed' || position === 'sticky') return position;
    }
    return 'static';
  };
  /** What can be seen of it: itself, or the first thing in it that has a size. */
  const visiblePart = (element: Element): Element => {
    if (whyHidden(element) === undefined) return element;
    if (!element.isConnected || getComputedStyle(element).display === 'none') return element;
    const inner = element.shadowRoot ?? element;
    for (const one of [...inner.querySelectorAll('*')].slice(0, 200))
      if (whyHidden(one) === undefined) return one;
    return element;
  };
  /** The outermost element around one that is taken out of the flow of the page: a banner, a dialog, a bar. */
  const layerOf = (element: Element): Element => {
    let layer = element;
    for (
      let one: Element | null = element;
      one && one !== document.body;
      one = one.parentElement ?? hostOf(one)
    ) {
      const { position } = getComputedStyle(one);
      if (position === 'fixed' || position === 'sticky' || position === 'absolute') layer = one;
    }
    return layer;
  };
  /** Whether a layer has something to click. */
  const canBeClosed = (layer: Element): boolean => {
    const inside = (layer.shadowRoot ?? layer).querySelectorAll(
      'button,a[href],input,select,[role=button],summary',
    );
    return [...inside].some((one) => whyHidden(one) === undefined) || layer.matches('button,a[href],iframe');
  };
  /** It takes most of the window, and can be closed: it is meant to be answered before anything else. */
  const isModal = (layer: Element): boolean => {
    const { width, height } = layer.getBoundingClientRect();
    return width * height > innerWidth * innerHeight * 0.4 && canBeClosed(layer);
  };
  const layers = new Set<Element>();
  const seen: Element[] = [];
  const elements: LookedAt[] = [];
  const at = new Map<Element, number>();
  const look = (element: Element, probe?: string): void => {
    const known = at.get(element);
    if (known !== undefined) {
      if (probe !== undefined) (elements[known]!.probes as string[]).push(probe);
      return;
    }
    const shown = visiblePart(element);
    const hidden = whyHidden(shown);
    const box = boxOf(shown);
    const position = positionOf(shown);
    let coveredBy: string | undefined;
    let isUnderModal = false;
    if (hidden === undefined) {
      // What is in the flow of the page is scrolled to, as somebody would.
      const back = [scrollX, scrollY] as const;
      if (position !== 'fixed') shown.scrollIntoView({ block: 'center', behavior: 'instant' });
      const now = shown.getBoundingClientRect();
      const points = [
        [0.5, 0.5],
        [0.2, 0.5],
        [0.8, 0.5],
      ].map(([dx, dy]) => [now.x + now.width * dx!, now.y + now.height * dy!] as const);
      const hits = points.filter(([x, y]) => isInWindow(x, y)).map(([x, y]) => topmost(x, y));
      const over = hits.filter(
        (hit) => hit && !holds(element, hit) && !holds(hit, shown) && hit !== document.body,
      );
      if (hits.length > 0 && over.length === hits.length && over[0]) {
        const layer = layerOf(over[0]);
        coveredBy = selectorOf(layer);
        isUnderModal = isModal(layer);
        layers.add(layer);
      }
      if (position !== 'fixed') scrollTo({ left: back[0], top: back[1], behavior: 'instant' });
    }
    at.set(element, elements.length);
    seen.push(element);
    elements.push({
      tag: tagOf(element),
      selector: selectorOf(element),
      text: clip(textOf(shown) || shown.textContent || ''),
      box,
      position,
      isVisible: hidden === undefined,
      ...(hidden === undefined ? {} : { hidden }),
      ...(coveredBy === undefined ? {} : { coveredBy, isUnderModal }),
      probes: probe === undefined ? [] : [probe],
    });
  };
  for (const element of made) if (element.isConnected) look(element);
  const madeAt = made.map((element) => at.get(element) ?? -1);
  let floating = 0;
  for (const element of document.querySelectorAll('body *')) {
    const { position, display } = getComputedStyle(element);
    if ((position !== 'fixed' && position !== 'sticky') || display === 'none') continue;
    if (++floating > MAX_FLOATING) break;
    look(element);
  }
  for (const probe of probes) {
    let found: Element | null = null;
    try {
      found = document.querySelector(probe);
    } catch {
      // No selector: nothing is meant.
    }
    if (found) look(found, probe);
  }

  const controls = [
    ...document.querySelectorAll(
      'a[href],button,input:not([type=hidden]),select,textarea,summary,[role=button],[role=link],[onclick]',
    ),
  ]
    .filter((one) => whyHidden(one) === undefined && !(one as HTMLButtonElement).disabled)
    .slice(0, maxControls);
  const kindOf = (control: Element): SeenControl['kind'] =>
    control.matches('a,[role=link]')
      ? 'link'
      : control.matches('select,textarea,input:not([type=submit],[type=button],[type=reset],[type=image])')
        ? 'field'
        : 'button';
  /** What a label says by itself, without the field in it. */
  const wordsOf = (label: Element | undefined): string =>
    label ? [...label.childNodes].map((node) => (node instanceof Text ? node.data : '')).join('') : '';
  const nameOf = (control: Element): string => {
    const { labels, innerText, value } = control as HTMLInputElement;
    const attribute = (name: string): string => control.getAttribute(name) ?? '';
    const ways =
      kindOf(control) === 'field'
        ? [attribute('aria-label'), wordsOf(labels?.[0]), attribute('placeholder'), attribute('name')]
        : [attribute('aria-label'), innerText, value, attribute('title'), attribute('href')];
    return clip(ways.find((way) => typeof way === 'string' && way.trim() !== '') ?? control.localName);
  };
  /** For each control, in how many of the places where it can be seen something else lies on it. */
  const tally = controls.map(() => ({ shown: 0, under: 0, by: null as Element | null, part: 0 }));
  const test = (control: Element, index: number): void => {
    const now = control.getBoundingClientRect();
    if (now.bottom < 0 || now.right < 0 || now.top >= innerHeight || now.left >= innerWidth) return;
    const steps = [0.1, 0.3, 0.5, 0.7, 0.9];
    const hits = steps.flatMap((dx) =>
      [0.2, 0.5, 0.8].map((dy) => [now.x + now.width * dx, now.y + now.height * dy] as const),
    );
    const inside = hits.filter(([x, y]) => isInWindow(x, y));
    if (inside.length < hits.length / 2) return;
    const othersAt = (points: typeof inside): readonly (Element | null)[] =>
      points
        .map(([x, y]) => topmost(x, y))
        .filter((hit) => hit && !holds(control, hit) && !holds(hit, control) && !labels(hit, control));
    const one = tally[index]!;
    one.shown++;
    // Most controls are free: what covers most of one covers one of these, too.
    if (othersAt(inside.filter((_, at) => at % 3 === 1)).length === 0) return;
    const over = othersAt(inside);
    // A control of which a sliver is free can be found by accident only.
    if (over.length > inside.length * 0.6) {
      one.under++;
      one.by ??= over[0]!;
    }
    one.part = Math.max(one.part, over.length / inside.length);
  };
  const labels = (hit: Element, control: Element): boolean =>
    hit.closest('label')?.contains(control) === true || hit.closest('a,button') === control;
  const { scrollX: left, scrollY: top } = window;
  const places = [0, document.documentElement.scrollHeight];
  for (const place of new Set(places)) {
    scrollTo({ left: 0, top: place, behavior: 'instant' });
    controls.forEach(test);
  }
  controls.forEach((control, index) => {
    if (tally[index]!.under === 0) return;
    control.scrollIntoView({ block: 'center', inline: 'center', behavior: 'instant' });
    test(control, index);
  });
  scrollTo({ left, top, behavior: 'instant' });
  const covered = controls.flatMap((control, index) => {
    const { shown, under, by, part } = tally[index]!;
    if (by === null || under < shown) return [];
    const layer = layerOf(by);
    look(layer);
    const box = boxOf(control);
    return [
      {
        tag: tagOf(control),
        selector: selectorOf(control),
        text: nameOf(control),
        box,
        coveredBy: selectorOf(layer),
        covered: Math.round(box.width * box.height * part),
        canBeClosed: canBeClosed(layer),
      },
    ];
  });
  for (const layer of layers) look(layer);
  (window as unknown as { seenElements: readonly Element[] }).seenElements = seen;
  const { scrollWidth: width, scrollHeight: height } = document.documentElement;
  return {
    elements,
    madeAt,
    covered,
    controls: controls.map((control) => ({
      kind: kindOf(control),
      name: nameOf(control),
      box: boxOf(control),
    })),
    readable: (document.body instanceof HTMLElement ? document.body.innerText : '')
      .replace(/\s+/g, ' ')
      .trim().length,
    size: { width, height },
    window: { width: innerWidth, height: innerHeight },
    scrolled: height === 0 ? 100 : Math.min(100, Math.round(((scrollY + innerHeight) / height) * 100)),
  };
}

/** Work that kept the page from answering, and what moved, as the browser has kept it; nothing that begins after the question. */
export function readTimings(): Promise<{ readonly longTasks: LongTask[]; readonly shifts: LayoutShift[] }> {
  interface Shift extends PerformanceEntry {
    readonly value: number;
    readonly hadRecentInput: boolean;
    readonly sources?: readonly { readonly node: Node | null }[];
  }
  interface Frame extends PerformanceEntry {
    readonly scripts?: readonly { readonly sourceURL: string; readonly duration: number }[];
  }
  const asked = performance.now();
  const longTasks: LongTask[] = [];
  const shifts: LayoutShift[] = [];
  const name = (node: Node | null): string =>
    node instanceof Element ? `${node.localName}${node.id === '' ? '' : `#${node.id}`}` : '';
  const observers = [
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as Frame[])
        if (entry.startTime < asked)
          longTasks.push({
            atMs: Math.round(entry.startTime),
            durationMs: Math.round(entry.duration),
            scripts: (entry.scripts ?? []).map(({ sourceURL, duration }) => ({
              url: sourceURL,
              durationMs: Math.round(duration),
            })),
          });
    }),
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as Shift[])
        if (!entry.hadRecentInput && entry.startTime < asked)
          shifts.push({
            atMs: Math.round(entry.startTime),
            score: entry.value,
            moved: (entry.sources ?? []).map(({ node }) => name(node)).filter(Boolean),
          });
    }),
  ];
  observers[0]!.observe({ type: 'long-animation-frame', buffered: true });
  observers[1]!.observe({ type: 'layout-shift', buffered: true });
  return new Promise((resolve) => {
    setTimeout(() => {
      for (const observer of observers) observer.disconnect();
      resolve({ longTasks, shifts });
    }, 20);
  });
}
