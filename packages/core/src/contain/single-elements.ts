/** An element that a page has once. */
export interface SingleElement {
  /** What people call it. */
  readonly what: string;
  readonly tag: string;
  /** The attribute that tells it from others with its tag, and its value where that does. */
  readonly attribute?: string;
  readonly value?: string;
}

/** Elements that a page has once (HTML Standard, 4.2.2 to 4.2.5; canonical: RFC 6596, 3). */
export const SINGLE_ELEMENTS: readonly SingleElement[] = [
  { what: '<title>', tag: 'title' },
  { what: '<base>', tag: 'base' },
  { what: 'canonical address', tag: 'link', attribute: 'rel', value: 'canonical' },
  { what: 'description', tag: 'meta', attribute: 'name', value: 'description' },
  { what: 'character set', tag: 'meta', attribute: 'charset' },
  { what: 'rule for robots', tag: 'meta', attribute: 'name', value: 'robots' },
  { what: 'viewport', tag: 'meta', attribute: 'name', value: 'viewport' },
];
