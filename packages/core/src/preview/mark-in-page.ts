/** What the mark says. All of it is text. */
export interface MarkWords {
  /** Of the tab, and of the window's title. */
  readonly label: string;
  readonly what: string;
  readonly until: string;
  /** A sentence over the changes. */
  readonly heading: string;
  readonly changes: readonly string[];
  readonly notes: readonly string[];
  readonly leave: string;
  readonly leaveAddress: string;
  readonly hide: string;
  /** Links to this origin stay in the preview. */
  readonly origin: string;
}

/**
 * Marks a page as a preview: stripes along all edges of the window and a tab that tells more, above everything else and out of the
 * page's reach. Links to the site's own address lead to the preview's. Runs in the page, so it stands on its own; styles are set by
 * script, which no content policy forbids.
 */
export function markPage(words: MarkWords): void {
  const host = document.createElement('pragmatica-preview');
  const root = host.attachShadow({ mode: 'closed' });
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(`
    :host {
      all: initial !important; position: fixed !important; inset: 0 !important; width: auto !important; height: auto !important;
      margin: 0 !important; padding: 0 !important; border: 0 !important; background: none !important; overflow: visible !important;
      display: block !important; visibility: visible !important; opacity: 1 !important; pointer-events: none !important;
      z-index: 2147483647 !important; color-scheme: light !important;
    }
    .edge {
      position: fixed; inset: 0; border: 6px solid;
      border-image: repeating-linear-gradient(-45deg, #1b1b1f 0 9px, #ffd23f 9px 18px) 6;
    }
    .tab {
      position: fixed; top: 6px; left: 50%; transform: translateX(-50%); max-width: calc(100vw - 40px); box-sizing: border-box;
      background: #ffd23f; color: #1b1b1f; border: 2px solid #1b1b1f; border-top: 0; border-radius: 0 0 8px 8px;
      font: 500 14px/1.4 system-ui, sans-serif; pointer-events: auto; text-align: left;
    }
    summary { padding: 4px 14px 5px; cursor: pointer; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
    summary:focus-visible, a:focus-visible, button:focus-visible { outline: 2px solid #1b1b1f; outline-offset: -4px; }
    .more { padding: 4px 14px 12px; width: 30rem; max-width: 100%; box-sizing: border-box; max-height: 60vh; overflow: auto; }
    p, ul { margin: 6px 0; font-weight: 400; } ul { padding-left: 20px; }
    .acts { display: flex; gap: 16px; margin-top: 10px; }
    a, button { font: inherit; color: inherit; background: none; border: 0; padding: 6px 0; text-decoration: underline; cursor: pointer; }
    @media print { .tab { position: absolute; } }
  `);
  root.adoptedStyleSheets = [sheet];
  const make = <T extends keyof HTMLElementTagNameMap>(
    tag: T,
    text: string,
    name = '',
  ): HTMLElementTagNameMap[T] => {
    const element = document.createElement(tag);
    element.textContent = text;
    if (name !== '') element.className = name;
    return element;
  };
  const tab = make('details', '', 'tab');
  const more = make('div', '', 'more');
  const list = make('ul', '');
  list.append(...words.changes.map((change) => make('li', change)));
  const leave = make('a', words.leave);
  leave.href = words.leaveAddress;
  const hide = make('button', words.hide);
  hide.addEventListener('click', () => tab.remove());
  const acts = make('div', '', 'acts');
  acts.append(leave, hide);
  more.append(make('p', words.heading), ...(words.changes.length > 0 ? [list] : []));
  more.append(...[...words.notes, words.until].map((note) => make('p', note)), acts);
  const summary = make('summary', words.label);
  summary.append(` · ${words.what}`);
  tab.append(summary, more);
  root.append(make('div', '', 'edge'), tab);

  /** Beside the body: what a page does with its body leaves the mark alone. */
  const stand = (): void => {
    document.documentElement.append(host);
    try {
      host.popover = 'manual';
      host.showPopover();
    } catch {
      // Browsers without a top layer have the highest place in the page.
    }
  };
  let left = 50;
  const stay = new MutationObserver(() => {
    if (host.isConnected || left-- === 0) return;
    stand();
  });
  const begin = (): void => {
    stand();
    stay.observe(document, { childList: true });
    stay.observe(document.documentElement, { childList: true });
    const title = document.title;
    if (!title.startsWith(words.label)) document.title = `${words.label}: ${title}`;
  };
  if (document.readyState === 'loading') document.addEventListener('DOMContentLoaded', begin, { once: true });
  else begin();
  document.addEventListener(
    'click',
    (event) => {
      for (const one of event.composedPath()) {
        if (!(one instanceof HTMLAnchorElement) || one.origin !== words.origin) continue;
        one.href = location.origin + one.pathname + one.search + one.hash;
        return;
      }
    },
    true,
  );
}
