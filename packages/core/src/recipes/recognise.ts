import { URLPattern } from 'urlpattern-polyfill';
import { memoizeByObject } from '../memoize/by-object.js';
import { memoizeByText } from '../memoize/by-text.js';
import { hostOf, type Facts } from '../facts/index.js';
import type { Recipe, Recognition } from './types.js';
import { RECIPES_TEXTS } from '../texts/recipes.js';

/** What told it, the surest first. */
const KINDS = ['addresses', 'hosts', 'globals'] as const;

/** The recipe, of several, that code is an install of; an address tells more than a host, and a host more than a name. */
export function recogniseRecipe(facts: Facts, recipes: readonly Recipe[]): Recipe | undefined {
  for (const kind of KINDS) {
    const found = recipes.find(({ recognise }) => tells[kind](recognise, facts));
    if (found) return found;
  }
  return undefined;
}

const tells: Readonly<Record<(typeof KINDS)[number], (by: Recognition, facts: Facts) => boolean>> = {
  addresses: (by, { loads }) => {
    const patterns = patternsOf(by);
    return (
      patterns.length > 0 &&
      loads.some(({ address }) => {
        const whole = wholeAddress(address);
        return whole !== undefined && patterns.some((pattern) => pattern.test(whole));
      })
    );
  },
  hosts: ({ hosts }, { loads }) =>
    hosts.length > 0 &&
    loads.some(({ address }) => {
      const host = hostOf(address);
      return host !== undefined && hosts.some((pattern) => isHost(pattern, host));
    }),
  globals: ({ globals }, { defines }) =>
    globals.length > 0 && defines.some(({ name }) => globals.includes(name)),
};

/** `*.crateline.example` holds all below it, and not itself. */
function isHost(pattern: string, host: string): boolean {
  return pattern.startsWith('*.') ? host.endsWith(pattern.slice(1)) : host === pattern;
}

/** Addresses without a protocol take the page's. */
function wholeAddress(address: string): string | undefined {
  const whole = address.startsWith('//') ? `https:${address}` : address;
  return URL.canParse(whole) ? whole : undefined;
}

const patternsOf = memoizeByObject(({ addresses }: Recognition) =>
  addresses.flatMap((address) => addressPattern(address) ?? []),
);

/** None where it holds regular expressions of its own: they can take for ever on an address that nobody thought of. */
const addressPattern = memoizeByText(2_000, (source): URLPattern | null => {
  try {
    // The package's types are behind the Standard here, not the package.
    const pattern = new URLPattern(source) as URLPattern & { readonly hasRegExpGroups: boolean };
    return pattern.hasRegExpGroups ? null : pattern;
  } catch {
    return null;
  }
});

/** What is wrong with an address pattern, in words; undefined where nothing is. */
export function addressPatternProblem(source: string): string | undefined {
  return addressPattern(source) ? undefined : RECIPES_TEXTS.noAddressPattern;
}
