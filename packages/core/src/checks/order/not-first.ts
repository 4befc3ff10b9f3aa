import { placementOfStatement } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import type { ReadPart } from '../read-part.js';
import { defineCheck } from '../check.js';

export const notFirst = defineCheck({
  id: 'not-first',
  area: 'order',
  severity: 'warning',
  title: 'Code that must be first in the head is not',
  why: 'Some code has to run before everything else, such as a consent banner that holds other code back. Whatever is above it runs unchecked.',
  messages: {
    'not-first': {
      title:
        '{part} must be first in the head, but {others} {count, plural, one {runs before it} other {run before it}}',
      advice: 'The provider says: “{statement}” Move it to the top.',
      fix: 'Move it to the top of the head.',
    },
  },
  isFixable: true,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-start',
          code: '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>',
        },
      ],
    },
    {
      name: 'Cookie question',
      parts: [
        {
          placement: 'head-start',
          statement: 'This must be the first script in the head.',
          code: '<script src="https://biscuitkeel.example/ask.js"></script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Cookie question',
      parts: [
        {
          placement: 'head-start',
          statement: 'This must be the first script in the head.',
          code: '<script src="https://biscuitkeel.example/ask.js"></script>',
        },
      ],
    },
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-start',
          code: '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>',
        },
      ],
    },
  ],
  *runOnWhole(set) {
    // They are the first in page order.
    const end = set.parts.findIndex(({ part }) => part.placement !== 'head-start');
    const top = end < 0 ? set.parts : set.parts.slice(0, end);
    for (const part of top) {
      if (!part.isOn || !mustBeFirst(part)) continue;
      const before = top.filter(
        (other) =>
          other.position < part.position &&
          other.isOn &&
          other.snippet !== part.snippet &&
          !mustBeFirst(other) &&
          set.meeting(part, other) !== undefined,
      );
      if (before.length === 0) continue;
      const others = top.filter((other) => other !== part);
      const leaders = others.filter((other) => other.position < part.position && mustBeFirst(other));
      const rest = others.filter((other) => !leaders.includes(other));
      const parts = [...leaders, part, ...rest].map(({ key }) => key);
      yield {
        about: 'first',
        message: 'not-first',
        params: {
          part: partName(part),
          others: before.map(partName),
          count: before.length,
          statement: part.part.statement!,
        },
        subjects: [part, ...before].map(subject),
        evidence: [],
        fix: [{ kind: 'arrange', lists: [{ placement: 'head-start', parts }], moved: [part.key] }],
      };
    }
  },
});

/** “As high as possible” leaves room for others; “first” does not. */
function mustBeFirst({ part: { statement } }: ReadPart): boolean {
  return (
    statement !== undefined &&
    placementOfStatement(statement) === 'head-start' &&
    /\b(?:first|before (?:any|all) other|above (?:any|all) other)\b/i.test(statement)
  );
}
