import type { SeenLoad } from '../../api/visits';

/** Told apart in both themes, and by people who see few colours: light differs as well as hue. */
const COLOURS = ['#2f7d63', '#c4641b', '#4a73ab', '#a84f78', '#8a7a1f', '#5b4b9a', '#2b8a9b', '#b0483f'];

/** A colour for each snippet that did anything in a page load. */
export function snippetColours(load: SeenLoad): ReadonlyMap<string, string> {
  const keys = [...load.requests, ...load.elements].flatMap(({ owner }) => owner.snippet ?? []);
  return coloursOf(keys);
}

/** A colour for each of these, in their order. */
export function coloursOf(keys: readonly string[]): ReadonlyMap<string, string> {
  return new Map([...new Set(keys)].map((key, index) => [key, COLOURS[index % COLOURS.length]!]));
}
