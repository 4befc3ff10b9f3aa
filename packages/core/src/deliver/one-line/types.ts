import type { PageStates } from '../../reach/index.js';

/*
 * What the one line brings to visitors' browsers, as lists instead of objects with names: it is sent to everybody.
 */

/** An element of a selector: what it matches itself, whether it is a child of the one before, and its two places from 1. */
export type LineStep = readonly [matches: string, isChild: 0 | 1, child: number, ofType: number];

/** 0 to 3: the named placements in page order; or an element: its side in page order, and its selector. */
export type LinePlace = 0 | 1 | 2 | 3 | readonly [side: 0 | 1 | 2 | 3, steps: readonly LineStep[]];

export type LinePart = readonly [
  place: LinePlace,
  rule: number,
  code: string,
  /** It runs anew on each view of a single-page application. */
  isForViews?: 1,
];

/** On which page loads a part runs, by number: 0 for "not asked". */
export type LineRule = readonly [
  include: readonly number[],
  exclude: readonly number[],
  /** Of 1 phones, 2 tablets, 4 desktops. */
  devices: number,
  consent: readonly number[],
  /** The number of its opening hours from 1. */
  hours: number,
];

/** How a cookie says what was agreed to: its name, the categories in it, and the names that lead to them, for JSON. */
export type LineConsent = readonly [cookie: string, names: readonly string[], path?: readonly string[]];

/** A release as the browser runs it, the same for all pages of a site. */
export type LineRelease = readonly [
  parts: readonly LinePart[],
  rules: readonly LineRule[],
  /** What matches `host /path?search`: sources of regular expressions, or states. */
  patterns: readonly (string | PageStates)[],
  consent: LineConsent | undefined,
];

/** Opening hours: minutes since 1970 at which they first open, then minutes to each next change. */
export type LineHours = readonly number[];

/** What changes without a release: comes with the pointer. */
export type LineLive = readonly [
  /** The server's clock in milliseconds since 1970, and for how long that may have been kept; 0 where it is not known. */
  now: number,
  keptMs: number,
  hours: readonly LineHours[],
];
