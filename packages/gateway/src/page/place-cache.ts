import type { InsertOutcome, PreparedParts, PagePlaces } from '@pragmatica/core';
import { LRUCache } from 'lru-cache';

const MAX_BYTES = 32 << 20;
/** A longer page is not worth its memory while it passes. */
export const MAX_CACHED_PAGE = 4 << 20;
/** What an entry and each of its places weigh, about. */
const ENTRY_BYTES = 1_500;
const PLACE_BYTES = 400;

/** The same bytes, with the same parts: an origin's strong validator and what it was asked for. */
export interface PageKey {
  readonly host: string;
  readonly target: string;
  readonly tag: string;
  /** The charset that the transport declares. */
  readonly charset: string | undefined;
}

interface CachedPlaces {
  readonly places: PagePlaces;
  readonly outcomes: readonly InsertOutcome[];
  /** Parts are those of one release and path, so another release finds nothing here. */
  readonly parts: PreparedParts;
}

/**
 * The places found in pages with a strong validator (RFC 9110, 8.8.1: it changes whenever the bytes do). Bounded by
 * weight; what was used longest ago goes first.
 */
export class PlaceCache {
  readonly #pages = new LRUCache<string, CachedPlaces>({
    maxSize: MAX_BYTES,
    sizeCalculation: ({ places }) => ENTRY_BYTES + places.places.length * PLACE_BYTES,
  });

  find(key: PageKey, parts: PreparedParts): CachedPlaces | undefined {
    const page = this.#pages.get(nameOf(key));
    return page?.parts === parts ? page : undefined;
  }

  set(key: PageKey, page: CachedPlaces): void {
    this.#pages.set(nameOf(key), page);
  }

  delete(key: PageKey): void {
    this.#pages.delete(nameOf(key));
  }
}

function nameOf({ host, target, tag, charset }: PageKey): string {
  return `${host}\n${target}\n${tag}\n${charset ?? ''}`;
}
