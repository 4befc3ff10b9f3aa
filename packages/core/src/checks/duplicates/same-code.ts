import { memoizeByObject } from '../../memoize/by-object.js';
import { normalForm, type ReadCode } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import type { ReadPart } from '../read-part.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';

/** Code that is much the same, as far as can be told without comparing it. */
export const byOutline = tieOfParts(({ read }) => {
  const own = outline(read);
  return own === undefined ? [] : [own];
});

export const sameCode = defineCheck({
  id: 'same-code',
  area: 'duplicates',
  severity: 'error',
  title: 'The same code twice on one page',
  why: 'Code that is there twice runs twice: visits count double, two chat windows open, and the page gets slower.',
  messages: {
    snippet: {
      title: '{second} is the same code as {first}',
      advice: 'Both run on {page}, for example. One of them is enough.',
      fix: 'Switch {second} off.',
    },
    part: {
      title: '{second} is the same code as {first}',
      advice: 'Both run on {page}, for example. One of them is enough.',
      fix: 'Remove the code from {second}.',
    },
    'on-some-pages': {
      title: '{second} is the same code as {first}',
      advice: 'Both run on {page}, for example. Choose pages on which only one of them runs.',
    },
  },
  roles: {
    first: 'here',
    second: 'and again here',
  },
  explainsPairs: ['same-account', 'same-resource', 'thrown-away'],
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
  ties: [byOutline],
  *run(set) {
    for (const [first, second] of sameCodePairs(set)) {
      const page = set.meeting(first, second);
      if (page === undefined) continue;
      const isWhole = second.snippet.parts.length === 1;
      const isOneMissed = set.outside(second.snippet, first.snippet) !== undefined;
      const found = {
        about: `${first.key} ${second.key}`,
        params: { first: partName(first), second: partName(second), page },
        subjects: [subject(first), subject(second)],
        evidence: [
          evidence(first, { start: 0, end: first.code.length }, 'first'),
          evidence(second, { start: 0, end: second.code.length }, 'second'),
        ],
      } as const;
      // Taking the second away loses nothing only where the first runs as well.
      if (isOneMissed) yield { ...found, message: 'on-some-pages' };
      else if (isWhole)
        yield { ...found, message: 'snippet', fix: [{ kind: 'switch-off', snippet: second.snippet.key }] };
      else yield { ...found, message: 'part', fix: [{ kind: 'remove-part', part: second.key }] };
    }
  },
});

/** Each part and the first one before it with the same code. */
export const sameCodePairs = memoizeByObject(({ near: { running } }: CheckedSet): [ReadPart, ReadPart][] => {
  // Comparing trees is needed only where what the code does is the same in number.
  const alike = groups(running, ({ read }) => outline(read));
  return alike.flatMap((group) =>
    groups(group, ({ read }) => normalFormOf(read)).flatMap(([first, ...rest]) =>
      rest.map((second): [ReadPart, ReadPart] => [first!, second]),
    ),
  );
});

const normalFormOf = memoizeByObject(({ code }: ReadCode) => normalForm(code));

/** What is the same in any way of writing the same code. */
const outline = memoizeByObject(({ code, facts }: ReadCode): string | undefined => {
  const { language, pieces, hosts, loads, defines, uses, makes } = facts;
  if (code.trim() === '') return undefined;
  const names = [...defines, ...uses].map(({ name }) => name);
  return [language, pieces.length, loads.length, ...hosts, ...names, ...makes.map(({ id }) => id)].join(' ');
});
