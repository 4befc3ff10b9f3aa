import { MOST_PAGES, pasteBlocks, pasteDelivery, type PasteBlocks } from '../../deliver/index.js';
import { placementWords } from '../../insert/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { defineCheck } from '../check.js';
import { subject } from '../evidence.js';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';

export const noBox = defineCheck({
  id: 'no-box',
  area: 'delivery',
  severity: 'warning',
  title: 'No box to paste it into',
  why: 'On a site where you paste the code yourself, anything without a box reaches no visitor.',
  asks: ['hosts'],
  messages: {
    unknown: {
      title: 'The code boxes of {hosts} are not described yet',
      advice:
        'Describe them under Delivery, or with “pragmatica paste box”: what each is called and where it goes. You then get the exact text for each.',
    },
    'no-head-box': {
      title: '{part} goes {where}, but there is no box for the head',
      advice:
        'Move it to the end of the body if its provider allows that, describe the head box if there is one, or deliver {hosts} by the one line.',
    },
    'no-body-box': {
      title: '{part} goes {where}, but no box reaches there',
      advice:
        'Describe the foot box of the site builder, if it has one, or choose another place for this part.',
    },
    'strips-scripts': {
      title: '{part} needs a script, but its box strips scripts',
      advice: 'Choose a place whose box keeps scripts, or exclude {hosts} from its reach.',
    },
    'too-many-pages': {
      title: '{part} would have to be pasted into {pages, number} pages one by one',
      advice:
        'Nobody gets more than {most, number} pages right by hand. If there is a box for all pages, describe it; Pragmatica then writes the page rules into the block.',
    },
    'too-long': {
      title: 'The block for “{box}” is {over, number} characters too long',
      advice:
        'Its {count, plural, one {part} other {# parts}} together are too long for it. Move some of them to another place, or use the one line, which is a single short tag.',
    },
  },
  given: 'The site’s code is pasted, and its builder has code blocks on single pages only.',
  delivery: 'paste',
  boxes: [{ kind: 'page-content', name: 'Code block' }],
  pages: { '/': '<!DOCTYPE html><html><head><title>t</title></head><body><p>x</p></body></html>' },
  isFixable: false,
  wrong: [{ name: 'Visit counter', parts: [{ placement: 'head-end', code: COUNTER }] }],
  right: [{ name: 'Visit counter', include: ['/'], parts: [{ placement: 'body-end', code: COUNTER }] }],
  *runOnWhole(set) {
    const hosts = pastedHosts(set);
    const [first] = set.running;
    if (hosts.length === 0 || !first) return;
    if (set.boxes.length === 0) {
      const snippets = new Map(set.running.map(({ snippet: { key, name } }) => [key, name]));
      const subjects = [...snippets].map(([snippet, name]) => ({ snippet, name }));
      yield { about: 'boxes', message: 'unknown', params: { hosts }, subjects, evidence: [] };
      return;
    }
    const { blocks, left } = blocksOf(set);
    for (const { part: key, reason, pages } of left) {
      const part = set.running.find((one) => one.key === key);
      if (!part) continue;
      const where = placementWords(part.part.placement);
      yield {
        about: reason,
        message: reason,
        params: { part: partName(part), where, hosts, pages, most: MOST_PAGES },
        subjects: [subject(part)],
        evidence: [],
      };
    }
    for (const { box, page, parts, tooLongBy } of blocks) {
      if (tooLongBy === undefined) continue;
      const keys = new Set(parts.map(({ key }) => key));
      yield {
        about: `${box.kind} ${page ?? ''}`,
        message: 'too-long',
        params: { box: box.name, over: tooLongBy, count: parts.length },
        subjects: set.running.filter(({ key }) => keys.has(key)).map(subject),
        evidence: [],
      };
    }
  },
});

/** Hosts whose visitors get what is pasted. */
function pastedHosts(set: CheckedSet): readonly string[] {
  return set.waysOf({}).find(({ delivery }) => delivery === pasteDelivery)?.hosts ?? [];
}

function blocksOf({ snapshot, boxes, paths, now }: CheckedSet): PasteBlocks {
  return pasteBlocks(snapshot, { environment: 'live', boxes, pages: paths, release: 0, now });
}
