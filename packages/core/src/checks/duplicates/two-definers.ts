import type { Definition } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { definers } from '../order/definitions.js';
import type { CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { byName } from '../ties/by-name.js';
import { defineCheck } from '../check.js';
import { makerName } from '../page-code.js';

export const twoDefiners = defineCheck({
  id: 'two-definers',
  area: 'duplicates',
  severity: 'warning',
  title: 'Two snippets define the same name',
  why: 'The later one replaces the earlier one, so whatever the first set up or still needs is gone.',
  asks: ['survey'],
  messages: {
    'same-name': {
      title: '{first} and {second} both define “{name}”',
      advice:
        "Only the later one counts. Rename one of them, or wrap the code in a function of its own: (function () '{' … '}')();",
    },
    'page-makes': {
      title: '{first} and the page itself both define “{name}”',
      advice:
        "On {page}, for example, {second} defines it too, and only the later one counts. Rename it in {first}, or wrap the code in a function of its own: (function () '{' … '}')();",
    },
  },
  roles: {
    first: 'defined here',
    second: 'and again here',
  },
  isFixable: false,
  pages: {
    '/fares':
      '<!DOCTYPE html><html><head><title>Fares</title><script>function fold() { shut(); }</script></head><body><p>Fares</p></body></html>',
  },
  wrong: [
    {
      name: 'Folding',
      parts: [{ placement: 'head-end', code: '<script>function fold() { open(); }</script>' }],
    },
    {
      name: 'Menu',
      parts: [{ placement: 'head-end', code: '<script>function toggle() { open(); }</script>' }],
    },
    {
      name: 'Filter',
      parts: [{ placement: 'body-end', code: '<script>function toggle() { filter(); }</script>' }],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [{ placement: 'head-end', code: '<script>window.q = window.q || []; q.push(1);</script>' }],
    },
    {
      name: 'Event',
      parts: [{ placement: 'body-end', code: '<script>window.q = window.q || []; q.push(2);</script>' }],
    },
  ],
  ties: [byName],
  *run(set) {
    for (const [name, all] of definers(set)) {
      const made = all.filter(
        ({ part, definition }) => part.isOn && isLasting(definition) && definition.from === undefined,
      );
      const [first] = made;
      // One install in several pieces may well say a thing again.
      const second = made.find(
        ({ part }) => part.snippet !== first!.part.snippet && part.code !== first!.part.code,
      );
      if (!first || !second || set.meeting(first.part, second.part) === undefined) continue;
      yield {
        about: name,
        message: 'same-name',
        params: { first: partName(first.part), second: partName(second.part), name },
        subjects: [subject(first.part), subject(second.part)],
        evidence: [
          evidence(first.part, first.definition.range, 'first'),
          evidence(second.part, second.definition.range, 'second'),
        ],
      };
    }
  },
  *runOnWhole(set) {
    if (set.pageCode.things.length > 0) yield* besidePages(set);
  },
});

function isLasting({ isStub, when }: Pick<Definition, 'isStub' | 'when'>): boolean {
  return !isStub && when !== 'later';
}

/** Names that the pages make, too. */
function* besidePages(set: CheckedSet) {
  const copies = new Set(set.hardCoded.map(({ sighting }) => sighting.key));
  for (const part of set.running)
    for (const definition of part.facts.defines) {
      if (!isLasting(definition) || definition.from !== undefined) continue;
      for (const definer of set.pageCode.definersOf(definition.name)) {
        // A copy of what we install is told as that.
        const { sighting } = definer.thing;
        const page = copies.has(sighting.key)
          ? undefined
          : set.pageCode.pageWith(definer.thing, part.snippet);
        if (page === undefined || !isLasting(definer)) continue;
        yield {
          about: `${definition.name} ${part.key}`,
          message: 'page-makes' as const,
          params: {
            first: partName(part),
            second: makerName(definer),
            name: definition.name,
            page,
          },
          subjects: [subject(part)],
          evidence: [evidence(part, definition.range, 'first')],
        };
        break;
      }
    }
}
