import { FactsCache } from '@pragmatica/core';

/** Kept from view to view: most of a site's code is the same from one look to the next. */
export const factsCache = new FactsCache();
