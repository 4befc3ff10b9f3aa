import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import { assertShallow, skeletonOf } from '../contain/index.js';
import { FactsCache } from '../facts/index.js';
import type { PlannedPart } from '../plan/index.js';
import { carriersIn, type Carrier } from './carriers.js';
import { decodePage } from './decode.js';
import { attributeItems, findParts, ownRanges } from './known-parts.js';
import { readItems } from './page-items.js';
import { readHead, refreshTarget } from './page-links.js';
import { isElement, parsePage } from '../html/index.js';
import { guessPageType } from './page-type.js';
import { pageTraits } from './traits.js';
import { headerPolicies } from '../policy/index.js';
import type { PageReading, PageSource } from './types.js';
import { VisibleBounds } from './visible-bounds.js';

/** Another one whenever pages are read otherwise than before: what an earlier one read is not taken over then. */
export const READER_VERSION = 4;

/**
 * Reads one page as it came: what it is, where it leads, and everything in it that loads, runs or frames something.
 *
 * @param parts - what the page should hold of ours; its skeleton is the page without them
 * @param carrier - how it gets them, where they do not stand in it
 * @throws TooMuchError for a page that is nested too deep
 */
export function readPage(
  source: PageSource,
  memory: FactsCache = new FactsCache(),
  parts: readonly PlannedPart[] = [],
  carrier?: Carrier,
): PageReading {
  const { text, charset } = decodePage(source.bytes, source.headers['content-type']);
  const document = parsePage(text);
  assertShallow(document);
  const head = readHead(document);
  const base = resolved(head.base, source.url) ?? source.url;
  const path = new URL(source.url);
  const shown = new VisibleBounds(document);
  const bodyStart = bodyStartOf(document);
  const items = readItems(document.childNodes, {
    text,
    memory,
    own: ownWords(path, head.title, head.canonical),
    base,
    placeOf: (offset) => (offset < bodyStart ? 'head' : shown.placeOf(offset)),
  });
  const standing = findParts(text, parts, charset.name);
  const carriers = carrier ? carriersIn(text, document, base, carrier) : [];
  const found = carriers.length > 0 ? standing.map((one) => ({ ...one, isBrought: true })) : standing;
  const own = [...ownRanges(standing, parts), ...carriers];
  const refresh = source.headers['refresh'];
  const target = refresh === undefined ? head.refresh : refreshTarget(refresh);
  const fromHeaders = headerPolicies(source.headers);
  const reading = {
    title: head.title,
    language: head.language,
    charset,
    type: guessPageType(path.pathname + path.search, source.status, head.title, head.signs),
    skeleton: skeletonOf(
      document,
      own.map(({ range }) => range),
    ),
    ...fromHeaders,
    policies: [...fromHeaders.policies, ...head.metaPolicies],
    canonical: resolved(head.canonical, base),
    refresh: resolved(target, base),
    links: [...new Set(head.links.flatMap((href) => resolved(href, base) ?? []))],
  };
  return {
    ...reading,
    items: attributeItems(items, own),
    found,
    traits: pageTraits(reading, source.url, head.charsetAt),
  };
}

/** What is the page's own and stands on no other: words in code that make no two things of one. */
function ownWords(
  { pathname, search, href }: URL,
  title: string,
  canonical: string | undefined,
): Set<string> {
  const last = pathname.split('/').filter(Boolean).at(-1);
  const words = [pathname, pathname + search, href, title, canonical, last].filter(
    (word): word is string => word !== undefined && word.length > 2,
  );
  return new Set(words);
}

/** An address as a whole, without its fragment; undefined for what leads to no page. */
function resolved(href: string | undefined, base: string): string | undefined {
  if (href === undefined || !URL.canParse(href, base)) return undefined;
  const url = new URL(href, base);
  if (url.protocol !== 'http:' && url.protocol !== 'https:') return undefined;
  url.hash = '';
  return url.href;
}

/** Where the body begins in the text; everything is the head's where there is none to be seen. */
function bodyStartOf(document: Tree.Document): number {
  const root = document.childNodes.find(isElement);
  const body = root?.childNodes.filter(isElement).find(({ tagName }) => tagName !== 'head');
  // A body whose tag is left out begins with its first child.
  const start = body?.sourceCodeLocation ?? body?.childNodes[0]?.sourceCodeLocation;
  return start?.startOffset ?? Infinity;
}
