import type { PageSigns } from './page-links.js';
import type { PageType } from './types.js';

const CONFIRMATION = /confirm|thank-?you|thanks|success|order-?(?:received|complete)/i;
const SHOP = /"@type"\s*:\s*"(?:Product|Offer|ItemList)"/;
const ARTICLE = /"@type"\s*:\s*"(?:News|Blog)?(?:Article|Posting)"/;

/** What a page looks like, by its address, its status and what stands in it. A guess, and said as one. */
export function guessPageType(
  path: string,
  status: number,
  title: string,
  { forms, articles, links, openGraphType, dataTypes }: PageSigns,
): PageType {
  if (status >= 400) return 'error';
  const pathname = path.split('?', 1)[0]!;
  if (/^\/(?:index\.\w+)?$/.test(pathname)) return 'front';
  if (CONFIRMATION.test(pathname) || CONFIRMATION.test(title)) return 'confirmation';
  if (
    /^product/i.test(openGraphType) ||
    SHOP.test(dataTypes) ||
    /\/(?:shop|products?|basket|cart|checkout)(?:\/|$)/i.test(pathname)
  )
    return 'shop';
  if (articles === 1 || /^article/i.test(openGraphType) || ARTICLE.test(dataTypes)) return 'article';
  if (forms > 0) return 'form';
  return articles > 1 || links > MANY_LINKS ? 'list' : 'other';
}

/** A page with so many links leads to others more than it says. */
const MANY_LINKS = 60;
