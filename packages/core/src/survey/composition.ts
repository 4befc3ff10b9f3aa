import type { AttributedItem, FoundPart, ItemKind, ItemPlace, ItemState, PageType } from './types.js';

/** Something in a page, as compositions hold it. */
export interface ComposedItem {
  /** Key of the sighting. */
  readonly sighting: string;
  readonly form: string;
  readonly kind: ItemKind;
  readonly state: ItemState;
  readonly place: ItemPlace;
  /** The part of ours that it is a piece of. */
  readonly part?: string;
}

/** What stands in a page, in document order, beside what the plan asks for. Pages of one make have one composition. */
export interface Composition {
  readonly items: readonly ComposedItem[];
  /** Keys of the parts that the plan asks for. */
  readonly expected: readonly string[];
  /** Those of them that are not there. */
  readonly missing: readonly string[];
}

/**
 * What stands in a page, without what is another on each page.
 *
 * @param items - of the page, see `attributeItems`
 * @param found - the parts that the plan asks for, see `findParts`
 */
export function composePage(items: readonly AttributedItem[], found: readonly FoundPart[]): Composition {
  return {
    items: items.map(({ key, form, kind, state, place, part }) => ({
      sighting: key,
      form,
      kind,
      state,
      place,
      ...(part === undefined ? {} : { part }),
    })),
    expected: found.map(({ part }) => part),
    missing: found.filter(({ at, isBrought }) => at.length === 0 && !isBrought).map(({ part }) => part),
  };
}

/** Pages of one section and type that stand on one composition. */
export interface ComposedPages {
  readonly composition: number;
  readonly section: string;
  readonly type: PageType;
  readonly pages: number;
  /** The first of them. */
  readonly examples: readonly string[];
}
