import type { LineConsent, LineLive, LineRelease, LineRule } from '../types.js';

/** 0 phone, 1 tablet, 2 desktop: as `deviceOf` tells them. */
const device = (): number => {
  const { userAgentData: hints, userAgent } = navigator as Navigator & {
    userAgentData?: { readonly mobile: boolean; readonly platform: string };
  };
  if (hints) return hints.mobile ? 0 : hints.platform === 'Android' ? 1 : 2;
  if (/iPad|Tablet|Silk|Kindle|Android(?!.*Mobile)/.test(userAgent)) return 1;
  return /Mobi|iP(?:hone|od)/.test(userAgent) ? 0 : 2;
};

const YES: readonly unknown[] = [true, 1, 'true', 'yes', 'granted', '1'];

const decoded = (text: string): string => {
  const bare = text.replace(/^"(.*)"$/, '$1');
  try {
    return decodeURIComponent(bare);
  } catch {
    return bare;
  }
};

/** The categories that the visitor has agreed to, as the cookie names them. */
const granted = ([cookie, , path]: LineConsent): readonly string[] => {
  const pair = document.cookie.split('; ').find((one) => one.startsWith(`${cookie}=`));
  if (!pair) return [];
  const value = decoded(pair.slice(cookie.length + 1));
  const split = (text: string): string[] => text.split(/[\s,;|+:]+/);
  if (!path) return split(value);
  try {
    let node = JSON.parse(value) as unknown;
    for (const name of path) node = (node as Record<string, unknown>)[name];
    if (typeof node === 'string') return split(node);
    if (Array.isArray(node)) return node as string[];
    return Object.entries(node as object).flatMap(([name, said]) => (YES.includes(said) ? name : []));
  } catch {
    return [];
  }
};

/** One pass over the text, whatever the pattern. */
export const matchesText = (pattern: LineRelease[2][number], text: string): boolean => {
  if (typeof pattern === 'string') return RegExp(pattern).test(text);
  let states = new Set([0]);
  for (const character of text) {
    const next = new Set<number>();
    for (const state of states)
      for (const [characters, to] of pattern[state]![1]) if (RegExp(characters).test(character)) next.add(to);
    states = next;
  }
  return [...states].some((state) => pattern[state]![0]);
};

/** Which rules hold now, for the page as its address is. */
export const rulesHeld = (
  [, rules, patterns, consent]: LineRelease,
  [, , hours]: LineLive,
  now: number,
): ((rule: number) => boolean) => {
  const { hostname, pathname, search } = location;
  const text = `${hostname} ${pathname}?${search.slice(1)}`;
  const matches = (number: number): boolean => matchesText(patterns[number]!, text);
  const agreed = consent ? granted(consent) : [];
  const kind = 1 << device();
  const isOpen = (number: number): boolean => {
    let at = 0;
    let changes = 0;
    for (const minutes of hours[number - 1] || []) if ((at += minutes) * 6e4 <= now) changes++;
    return changes % 2 > 0;
  };
  const holds = ([include, exclude, devices, categories, clock]: LineRule): boolean =>
    (!include.length || include.some(matches)) &&
    !exclude.some(matches) &&
    (!devices || !!(devices & kind)) &&
    categories.every((category) => agreed.includes(consent![1][category]!)) &&
    (!clock || isOpen(clock));
  const known: boolean[] = [];
  return (rule) => (known[rule] ??= holds(rules[rule]!));
};
