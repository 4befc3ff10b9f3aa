import { memoizeByObject } from '../../memoize/by-object.js';
import { normalAddress, type Load } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';
import { heldAccounts } from './same-account.js';

const byLoader = tieOfParts(({ facts }) => facts.loads.map(loaderOf));

export const twoAccounts = defineCheck({
  id: 'two-accounts',
  area: 'duplicates',
  severity: 'advice',
  title: 'One provider with two accounts',
  why: 'Sometimes that is on purpose, as when an agency counts visits too. More often an old account was forgotten, and its owner still gets your visitors’ data.',
  messages: {
    'two-accounts': {
      title: '{first} and {second} use two accounts at {domain}',
      advice: 'If you want both, accept this finding. Otherwise switch off the one nobody uses.',
    },
  },
  roles: {
    first: 'account {account}',
    second: 'account {other}',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/tally.js?id=TM-7731"></script>',
        },
      ],
    },
    {
      name: 'Old counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/tally.js?id=TM-1002"></script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/tally.js?id=TM-7731"></script>',
        },
      ],
    },
  ],
  ties: [byLoader],
  *run(set) {
    const held = heldAccounts(set.near.running);
    const loads = held.flatMap((one) =>
      one.part.facts.loads
        .filter(
          ({ kind, address, noScript }) =>
            kind === 'script' && !noScript && address.includes(one.account.domain),
        )
        .map((load) => ({ ...one, load })),
    );
    for (const [first, ...others] of groups(
      loads,
      ({ load, account }) => `${loaderOf(load)} ${account.label}`,
    )) {
      const second = others.find(
        ({ account, part }) =>
          account.value !== first!.account.value &&
          part.snippet !== first!.part.snippet &&
          // Where a recipe says that there may be only one, that is what is told.
          !set.isOfOneRecipe(part.snippet, first!.part.snippet),
      );
      if (!second || set.meeting(first!.part, second.part) === undefined) continue;
      yield {
        about: `${first!.account.domain} ${first!.account.value} ${second.account.value}`,
        message: 'two-accounts',
        params: {
          first: partName(first!.part),
          second: partName(second.part),
          domain: first!.account.domain,
          account: first!.account.value,
          other: second.account.value,
        },
        subjects: [subject(first!.part), subject(second.part)],
        evidence: [
          evidence(first!.part, first!.account.range, 'first'),
          evidence(second.part, second.account.range, 'second'),
        ],
      };
    }
  },
});

/** Without its query, which is where accounts differ. */
const loaderOf = memoizeByObject(({ address }: Load) => normalAddress(address).split('?', 1)[0]!);
