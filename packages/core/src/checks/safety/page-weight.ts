import type { ComposedPages, PageType } from '../../survey/index.js';
import { filesLoadedBy } from '../../survey/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { subject } from '../evidence.js';
import { exampleFile } from '../examples.js';
import { defineCheck } from '../check.js';
import type { ReadPart } from '../read-part.js';

const KB = 1_000;

/** Bytes of scripts and styles that a page may bring before visitors feel it, unpacked; less where somebody waits to pay or has paid. */
const BUDGETS: Readonly<Record<PageType, number>> = {
  front: 600 * KB,
  article: 600 * KB,
  list: 600 * KB,
  form: 500 * KB,
  shop: 600 * KB,
  confirmation: 400 * KB,
  error: 300 * KB,
  other: 600 * KB,
};

const CHAT = 'https://parlanook.example/chat.js';

export const pageWeight = defineCheck({
  id: 'page-weight',
  area: 'safety',
  severity: 'advice',
  title: 'Pages load too much code',
  why: 'A phone has to download and run all of it before the page responds to a tap. Visitors leave, and search engines notice.',
  asks: ['files'],
  messages: {
    heavy: {
      title: 'Pages like {page} load {kb, number} KB of scripts and styles',
      advice:
        'A page of this kind should stay under {budget, number} KB. {own, number} KB come from snippets, most of it from {part}. Check whether this page needs it.',
    },
    'heavy-itself': {
      title: 'Pages like {page} load {kb, number} KB of scripts and styles',
      advice:
        'A page of this kind should stay under {budget, number} KB. Nearly all of it is the site’s own. Ask whoever built its theme.',
    },
  },
  given: 'The chat’s file is 700 KB.',
  files: [exampleFile(CHAT, { bytes: 700 * KB })],
  isFixable: false,
  wrong: [
    { name: 'Chat', parts: [{ placement: 'body-end', code: `<script async src="${CHAT}"></script>` }] },
  ],
  right: [
    {
      name: 'Chat',
      parts: [{ placement: 'body-end', code: `<script async src="${CHAT}?small"></script>` }],
    },
  ],
  pages: {
    '/fares': '<!DOCTYPE html><html><head><title>Fares</title></head><body><p>Fares</p></body></html>',
  },
  *runOnWhole(set) {
    const heaviest = new Map<PageType, Weighed>();
    for (const group of set.pageCode.groups) {
      const weighed = weigh(set, group);
      const known = heaviest.get(group.type);
      if (weighed.bytes > BUDGETS[group.type] && weighed.bytes > (known?.bytes ?? 0))
        heaviest.set(group.type, weighed);
    }
    for (const [type, { page, bytes, own, most }] of heaviest) {
      const params = { page, kb: Math.round(bytes / KB), budget: BUDGETS[type] / KB };
      const about = { about: type, evidence: [] };
      if (most && own > bytes * TELLING)
        yield {
          ...about,
          message: 'heavy',
          params: { ...params, own: Math.round(own / KB), part: partName(most) },
          subjects: [subject(most)],
        };
      else yield { ...about, message: 'heavy-itself', params, subjects: [] };
    }
  },
});

/** Less of the whole is not worth looking at. */
const TELLING = 0.1;

interface Weighed {
  readonly page: string;
  readonly bytes: number;
  /** Of these the bytes that snippets bring. */
  readonly own: number;
  /** The part that brings most. */
  readonly most: ReadPart | undefined;
}

/** Each file counts once, whoever loads it. */
function weigh(set: CheckedSet, { composition, examples }: ComposedPages): Weighed {
  const page = examples[0]!;
  const counted = new Set<string>();
  const weightOf = ({ facts }: Pick<ReadPart, 'facts'>): number => {
    let bytes = facts.bytes;
    for (const { address } of filesLoadedBy(facts)) {
      const file = set.files.find(address, page);
      if (!file || counted.has(file.address)) continue;
      counted.add(file.address);
      bytes += file.bytes;
    }
    return bytes;
  };
  const theirs = set.pageCode.things
    .filter(({ compositions }) => compositions.has(composition))
    .reduce((sum, thing) => sum + weightOf(thing), 0);
  let own = 0;
  let most: { part: ReadPart; bytes: number } | undefined;
  for (const part of set.running) {
    if (!set.runsOn(part.snippet, page)) continue;
    const bytes = weightOf(part);
    own += bytes;
    if (bytes > (most?.bytes ?? 0)) most = { part, bytes };
  }
  return { page, bytes: theirs + own, own, most: most?.part };
}
