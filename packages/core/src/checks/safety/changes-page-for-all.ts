import { memoizeByObject } from '../../memoize/by-object.js';
import type { PageChange } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';
import type { Severity } from '../finding.js';
import type { ReadPart } from '../read-part.js';

const byHandler = tieOfParts(({ facts }) =>
  facts.pageChanges.flatMap(({ kind, what }) => (kind === 'handler' ? what : [])),
);

export const changesPageForAll = defineCheck({
  id: 'changes-page-for-all',
  area: 'safety',
  severity: 'warning',
  title: 'Code affects the whole page',
  why: 'It looks small but reaches far: into links, search engines, other scripts, or the visitor’s browser for good.',
  messages: {
    base: {
      title: '{part} changes where all links of the page lead',
      advice: 'With <base>, every address without a host starts from {what}. Remove it.',
    },
    redirect: {
      title: '{part} sends every visitor to another page',
      advice: 'It leads to {what}. If you want that, redirect on your web server; otherwise remove it.',
    },
    reload: {
      title: '{part} reloads the page again and again',
      advice: 'Visitors lose what they are typing, and every reload counts as a visit. Remove it.',
    },
    noindex: {
      title: '{part} keeps the page out of search engines',
      advice:
        'If you want to hide only some pages, limit it to them; otherwise remove it before you publish.',
    },
    title: {
      title: '{part} adds a second title',
      advice: 'Your page has its own; browsers show the first. Change the title where the page is edited.',
    },
    canonical: {
      title: '{part} tells search engines that all its pages are one',
      advice:
        'It gives {what} as the canonical address of every page it runs on, and search engines drop the others. Limit it to that page, or remove it.',
    },
    viewport: {
      title: '{part} adds its own viewport',
      advice:
        'The last one wins, so it changes how every page fits a phone, or stops visitors from zooming. Change it in the site’s template instead.',
    },
    charset: {
      title: '{part} sets its own character encoding',
      advice: 'Your page already sets it at the very top. Remove it.',
    },
    policy: {
      title: '{part} sets a content policy for the whole page',
      advice:
        'Anything it does not list is blocked from there on, including other snippets. Set policies on your web server, and remove it here.',
    },
    worker: {
      title: '{part} installs a service worker',
      advice:
        'It stays in visitors’ browsers and can answer for your pages even after this snippet is removed. Before you publish, ask the provider how to uninstall it.',
    },
    hidden: {
      title: '{part} hides the whole page until a script shows it again',
      advice:
        'If that script is blocked or slow, visitors see an empty page. Hide only what it changes, and show it again within a second.',
    },
    handler: {
      title: '{part} overwrites {what}',
      advice: 'Only one can be set, so what the page or others put there is gone. Use addEventListener.',
    },
    'handler-twice': {
      title: '{part} and {other} both set {what}',
      advice: 'Only one can be set, so the later one replaces the earlier. Use addEventListener in both.',
    },
    prototype: {
      title: '{part} changes {what} for all code on the page',
      advice:
        'Other scripts may behave differently from then on. Use a function of its own, under its own name.',
    },
    wrapped: {
      title: '{part} replaces the browser’s {what}',
      advice:
        'All code on the page uses its version from then on. Ask the provider whether it passes every call on.',
    },
  },
  roles: { change: 'affects the whole page', other: 'set here as well' },
  isFixable: false,
  wrong: [
    { name: 'Links', parts: [{ placement: 'head-end', code: '<base href="https://offers.example/">' }] },
  ],
  right: [
    {
      name: 'Links',
      parts: [{ placement: 'head-end', code: '<link rel="preconnect" href="https://offers.example">' }],
    },
  ],
  ties: [byHandler],
  *run(set) {
    const told = new Set<string>();
    for (const part of set.near.running)
      for (const change of part.facts.pageChanges) {
        const { kind, what, range, isGuarded } = change;
        const key = `${part.key} ${kind} ${what}`;
        if (isGuarded || told.has(key) || isMeant(set, part, change)) continue;
        told.add(key);
        const twice = kind === 'handler' ? otherWith(set, part, change) : undefined;
        if (twice && told.has(`${twice.key} ${kind} ${what}`)) continue;
        const found = {
          about: `${kind} ${what}`,
          params: { part: partName(part), what, other: twice ? partName(twice) : '' },
          subjects: twice ? [subject(part), subject(twice)] : [subject(part)],
          evidence: [
            evidence(part, range, 'change'),
            ...(twice ? [evidence(twice, rangeIn(twice, change), 'other')] : []),
          ],
        };
        yield {
          ...found,
          message: twice ? 'handler-twice' : kind,
          severity: twice ? 'warning' : SEVERITY[kind],
        };
      }
  },
});

const SEVERITY: Readonly<Record<PageChange['kind'], Severity>> = {
  base: 'error',
  redirect: 'error',
  reload: 'warning',
  noindex: 'error',
  title: 'warning',
  canonical: 'warning',
  viewport: 'warning',
  charset: 'warning',
  policy: 'warning',
  worker: 'warning',
  hidden: 'warning',
  // Often done, and often harmless where nobody else does it.
  handler: 'advice',
  prototype: 'warning',
  wrapped: 'advice',
};

/** Whether it is right where it runs: on one page by itself, or where the survey tells better. */
function isMeant(set: CheckedSet, part: ReadPart, { kind }: PageChange): boolean {
  const { include } = part.snippet.pages;
  const isForSome = include.length > 0 && include.every((rule) => rule !== '/*');
  const isForOne = include.length === 1 && !/[*:({?@]/.test(include[0]!);
  switch (kind) {
    case 'title':
    case 'charset':
    case 'viewport':
      // What the known pages have once is told by what they have.
      return set.skeletonsOf(part).length > 0;
    case 'canonical':
      return isForOne || set.skeletonsOf(part).length > 0;
    case 'noindex':
    case 'redirect':
    case 'hidden':
      return isForSome;
    default:
      return false;
  }
}

function otherWith(set: CheckedSet, part: ReadPart, { kind, what }: PageChange): ReadPart | undefined {
  return handlersOf(set)
    .get(what)
    ?.find(
      (other) =>
        other !== part &&
        other.snippet !== part.snippet &&
        kind === 'handler' &&
        set.meeting(part, other) !== undefined,
    );
}

function rangeIn({ facts }: ReadPart, { kind, what }: PageChange) {
  return facts.pageChanges.find((one) => one.kind === kind && one.what === what)!.range;
}

/** Who sets which handler, in page order. */
const handlersOf = memoizeByObject(({ near: { running } }: CheckedSet): Map<string, ReadPart[]> => {
  const found = new Map<string, ReadPart[]>();
  for (const part of running)
    for (const { kind, what } of part.facts.pageChanges)
      if (kind === 'handler') found.set(what, [...(found.get(what) ?? []), part]);
  return found;
});
