import { memoizeByObject } from '../../memoize/by-object.js';
import { partName } from '../../snapshot/index.js';
import { normalForm } from '../normal-form.js';
import { type CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import type { ReadCode } from '../facts-cache.js';
import type { ReadPart } from '../read-part.js';
import type { Check } from '../check.js';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';

export const sameCode: Check = {
  id: 'same-code',
  area: 'duplicates',
  severity: 'error',
  title: 'The same code twice on one page',
  why: 'What stands there twice runs twice: visits count double, two chat windows open, and the page gets slower.',
  isFixable: true,
  wrong: [
    { name: 'Counter', parts: [{ placement: 'head-end', code: COUNTER }] },
    {
      name: 'Statistics',
      parts: [
        {
          placement: 'body-end',
          code: `<SCRIPT  src='https://tallymast.example/count.js?id=TM-7731'\n async=""></SCRIPT>`,
        },
      ],
    },
  ],
  right: [
    { name: 'Counter', include: ['/'], parts: [{ placement: 'head-end', code: COUNTER }] },
    { name: 'Counter of the fares', include: ['/fares'], parts: [{ placement: 'head-end', code: COUNTER }] },
  ],
  *run(set) {
    for (const [first, second] of sameCodePairs(set)) {
      const page = set.meeting(first, second);
      if (page === undefined) continue;
      const isWhole = second.snippet.parts.length === 1;
      const isOneMissed = set.outside(second.snippet, first.snippet) !== undefined;
      yield {
        about: `${first.key} ${second.key}`,
        title: `${partName(second)} is the same code as ${partName(first)}`,
        advice: isOneMissed
          ? `Both run on ${page}, for example. Choose pages on which only one of them runs.`
          : `Both run on ${page}, for example. One of them is enough.`,
        subjects: [subject(first), subject(second)],
        evidence: [
          evidence(first, { start: 0, end: first.code.length }, 'here'),
          evidence(second, { start: 0, end: second.code.length }, 'and again here'),
        ],
        // Taking the second away loses nothing only where the first runs as well.
        ...(isOneMissed
          ? {}
          : {
              fix: {
                title: isWhole
                  ? `Switch ${partName(second)} off.`
                  : `Take the code out of ${partName(second)}.`,
                changes: [
                  isWhole
                    ? { kind: 'switch-off' as const, snippet: second.snippet.key }
                    : { kind: 'remove-part' as const, part: second.key },
                ],
              },
            }),
      };
    }
  },
};

/** Each part and the first one before it with the same code. */
export const sameCodePairs = memoizeByObject(({ running }: CheckedSet): [ReadPart, ReadPart][] => {
  // Comparing trees is needed only where what the code does is the same in number.
  const alike = groups(running, ({ read }) => outline(read));
  return alike.flatMap((group) =>
    groups(group, ({ read }) => normalFormOf(read)).flatMap(([first, ...rest]) =>
      rest.map((second): [ReadPart, ReadPart] => [first!, second]),
    ),
  );
});

const normalFormOf = memoizeByObject(({ code }: ReadCode) => normalForm(code));

const outline = memoizeByObject(({ code, facts }: ReadCode): string | undefined =>
  code.trim() === ''
    ? undefined
    : [facts.language, facts.pieces.length, ...facts.hosts, facts.loads.length, facts.defines.length].join(
        ' ',
      ),
);
