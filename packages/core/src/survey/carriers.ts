import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import { deliveryOf, findBlocks, findLines, lineName, type DeliveryKey } from '../deliver/index.js';
import type { EnvironmentName } from '../reach/index.js';
import type { OwnRange } from './known-parts.js';

/** How the pages of a host get their parts where these do not stand in them as they are. */
export interface Carrier {
  readonly site: string;
  readonly environment: EnvironmentName;
  readonly delivery: DeliveryKey;
}

/** Key of what brings parts: it is ours, and a piece of none of them. */
export const CARRIER_PART = 'pragmatica';

/** What brings parts to a page: the one line, or blocks that somebody has pasted. @param page - whole address */
export function carriersIn(
  text: string,
  document: Tree.Document,
  page: string,
  { site, environment, delivery }: Carrier,
): OwnRange[] {
  const found = deliveryOf(delivery).isLine
    ? findLines(document, lineName(site, environment), page).flatMap(({ range }) => range ?? [])
    : delivery === 'paste'
      ? findBlocks(text)
          .filter((block) => block.site === site)
          .map(({ range }) => range)
      : [];
  return found.map((range) => ({ part: CARRIER_PART, range }));
}
