import type { PageChange, PageChangeKind, Range } from './types.js';

/** What a tag says of the whole page; undefined for any other. */
export function changeOfTag(
  tag: string,
  attributes: ReadonlyMap<string, string>,
  range: Range,
): PageChange[] {
  const has = (name: string): string => (attributes.get(name) ?? '').trim().toLowerCase();
  const change = (kind: PageChangeKind, what = ''): PageChange[] => [
    { kind, what, range, isGuarded: false, confidence: 'certain' },
  ];
  switch (tag) {
    case 'base':
      return attributes.has('href') || attributes.has('target')
        ? change('base', attributes.get('href') ?? '')
        : [];
    case 'title':
      return change('title');
    case 'link':
      return has('rel').split(/\s+/).includes('canonical')
        ? change('canonical', attributes.get('href') ?? '')
        : [];
    case 'meta':
      return changeOfMeta(attributes, has, change);
    default:
      return [];
  }
}

function changeOfMeta(
  attributes: ReadonlyMap<string, string>,
  has: (name: string) => string,
  change: (kind: PageChangeKind, what?: string) => PageChange[],
): PageChange[] {
  if (attributes.has('charset') || has('http-equiv') === 'content-type')
    return change('charset', has('charset'));
  if (has('http-equiv') === 'refresh') {
    const address = /url\s*=\s*["']?([^"'\s]+)/i.exec(attributes.get('content') ?? '')?.[1];
    return change(address === undefined ? 'reload' : 'redirect', address ?? '');
  }
  if (has('http-equiv') === 'content-security-policy')
    return change('policy', attributes.get('content') ?? '');
  if (has('name') === 'viewport') return change('viewport', has('content'));
  const isRobots = /^(?:robots|[a-z]*bot)$/.test(has('name'));
  return isRobots && /\b(?:noindex|none)\b/.test(has('content')) ? change('noindex') : [];
}

/** The page's root elements, alone or with a class that a script sets at once. */
const ROOT = /^(?:html|body|:root|\*)(?:[.:[][\w.:="'()[\]-]*)?$/i;
const HIDES =
  /(?:^|[;{\s])(?:opacity\s*:\s*0(?:\.0+)?|visibility\s*:\s*hidden|display\s*:\s*none)(?=\s*(?:!important\s*)?(?:;|$))/i;

/** Whether a style rule hides the whole page. */
export function hidesPage(selectors: string, body: string): boolean {
  return HIDES.test(body.trim()) && selectors.split(',').some((selector) => ROOT.test(selector.trim()));
}

/** The same of one declaration that a script makes on the root elements. */
export function hidesElement(property: string, value: string): boolean {
  return HIDES.test(`${property.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}:${value.trim()}`);
}
