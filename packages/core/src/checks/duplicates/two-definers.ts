import { partName } from '../../snapshot/index.js';
import { definers } from '../order/definitions.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const twoDefiners = defineCheck({
  id: 'two-definers',
  area: 'duplicates',
  severity: 'warning',
  title: 'Two snippets that make the same name',
  why: 'The later one takes the place of the earlier one, so what the first set up or still needs is gone.',
  messages: {
    'same-name': {
      title: '{first} and {second} both make “{name}”',
      advice:
        "Only the later one stays. Rename one of them, or put the code into a function of its own: (function () '{' … '}')();",
    },
  },
  roles: {
    first: 'made here',
    second: 'and made anew here',
  },
  isFixable: false,
  wrong: [
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
  *run(set) {
    for (const [name, all] of definers(set)) {
      const made = all.filter(
        ({ part, definition }) => part.isOn && !definition.isStub && definition.when !== 'later',
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
});
