/** Where a button of a consent banner can be clicked. */
export interface FoundButton {
  readonly x: number;
  readonly y: number;
  readonly text: string;
  /** What lies on it everywhere, by its tag and id. */
  readonly coveredBy: string | null;
}

/**
 * Finds the button with which a visitor accepts or refuses, as a person would: in what lies over the page and speaks of
 * consent, by what is written on it. Handed to the browser as text, so it stands on its own.
 *
 * @param yes - words of accepting, by the start of a button's text; `no` of refusing
 */
export function findConsentButton(
  choice: 'accept' | 'refuse',
  yes: readonly string[],
  no: readonly string[],
  about: readonly string[],
): FoundButton | null {
  const fold = (text: string): string =>
    text.normalize('NFKD').replace(/\p{M}/gu, '').replace(/\s+/g, ' ').trim().toLowerCase();
  const buttons: Element[] = [];
  const roots: (Document | ShadowRoot)[] = [document];
  for (let root = roots.shift(); root && buttons.length < 2_000; root = roots.shift())
    for (const one of root.querySelectorAll('*')) {
      if (one.shadowRoot) roots.push(one.shadowRoot);
      if (one.matches('button,a,input[type=button],input[type=submit],[role=button]')) buttons.push(one);
    }
  const parentOf = (one: Element): Element | null => {
    const root = one.getRootNode();
    return one.parentElement ?? (root instanceof ShadowRoot ? root.host : null);
  };
  const score = (button: Element): number => {
    const { width, height } = button.getBoundingClientRect();
    const style = getComputedStyle(button);
    if (width < 5 || height < 5 || style.visibility !== 'visible' || style.display === 'none') return 0;
    const text = fold((button as HTMLElement).innerText || (button as HTMLInputElement).value || '');
    if (text === '' || text.length > 60) return 0;
    const wanted = choice === 'accept' ? yes : no;
    const other = choice === 'accept' ? no : yes;
    const starts = (words: readonly string[]): boolean =>
      words.some((word) => text === word || text.startsWith(`${word} `) || text.startsWith(`${word},`));
    const has = (words: readonly string[]): boolean =>
      words.some((word) => word.length > 3 && ` ${text} `.includes(` ${word} `));
    const isSaid = starts(wanted) || (has(wanted) && !starts(other) && !has(other));
    if (!isSaid) return 0;
    let points = starts(wanted) ? 2 : 1;
    let isAbout = false;
    let isOver = false;
    for (let one: Element | null = parentOf(button); one && one !== document.body; one = parentOf(one)) {
      const { position } = getComputedStyle(one);
      if (
        position === 'fixed' ||
        position === 'sticky' ||
        one.matches('dialog,[role=dialog],[aria-modal=true]')
      )
        isOver = true;
      const words = fold(
        `${one.id} ${one.className} ${one.getAttribute('aria-label') ?? ''} ${(one as HTMLElement).innerText || ''}`,
      );
      if (words.length < 6_000 && about.some((word) => words.includes(word))) isAbout = true;
    }
    // A link in a text that speaks of such things leads elsewhere.
    const isLink = button.matches('a[href]') && !(button.getAttribute('href') ?? '').startsWith('#');
    if (!isOver && (!isAbout || isLink)) return 0;
    if (isAbout) points += 4;
    if (isOver) points += 3;
    return points;
  };
  const best = buttons
    .map((button) => ({ button, points: score(button) }))
    .filter(({ points }) => points >= 4)
    .sort((a, b) => b.points - a.points)[0];
  if (!best) return null;
  best.button.scrollIntoView({ block: 'nearest', behavior: 'instant' });
  const { x, y, width, height } = best.button.getBoundingClientRect();
  const text = ((best.button as HTMLElement).innerText || (best.button as HTMLInputElement).value).trim();
  const points = [0.5, 0.25, 0.75, 0.08, 0.92].map((dx) => [x + width * dx, y + height / 2] as const);
  const hits = points.map(([left, top]) => document.elementFromPoint(left, top));
  const isFree = (hit: Element | null): boolean => {
    for (let one: Element | null = hit; one; one = one.parentElement) if (one === best.button) return true;
    return hit !== null && (hit.shadowRoot !== null || hit.contains(best.button));
  };
  const free = hits.findIndex(isFree);
  const [left, top] = points[Math.max(0, free)]!;
  const over = hits[0];
  return {
    x: left,
    y: top,
    text: text.slice(0, 60),
    coveredBy: free >= 0 || !over ? null : `${over.localName}${over.id === '' ? '' : `#${over.id}`}`,
  };
}
