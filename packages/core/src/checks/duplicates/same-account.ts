import { memoizeByObject } from '../../memoize/by-object.js';
import type { Account, Facts } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import type { ReadPart } from '../read-part.js';
import { defineCheck } from '../check.js';
import { sameCodePairs } from './same-code.js';

export interface Held {
  readonly part: ReadPart;
  readonly account: Account & { readonly domain: string };
}

/** Accounts that are surely such, where a provider can be told, outside what only browsers without scripts see. */
export function heldAccounts(parts: readonly ReadPart[]): Held[] {
  return parts.flatMap((part) => sureAccounts(part.facts).map((account) => ({ part, account })));
}

const sureAccounts = memoizeByObject(({ accounts, loads }: Facts) =>
  accounts.flatMap((account) => {
    const isFallback = loads.some(
      ({ noScript, range }) =>
        noScript && range.start <= account.range.start && account.range.end <= range.end,
    );
    return account.domain === undefined || account.confidence !== 'certain' || isFallback
      ? []
      : [{ ...account, domain: account.domain }];
  }),
);

export const sameAccount = defineCheck({
  id: 'same-account',
  area: 'duplicates',
  severity: 'warning',
  title: 'The same account at the same provider twice',
  why: 'Two installs with one account report every visit twice, so the numbers that you and others rely on are wrong.',
  messages: {
    'same-account': {
      title: '{second} uses the same account as {first}',
      advice: 'Both report to {account} at {domain}, on {page} for example. Keep the newer one.',
    },
  },
  roles: {
    account: 'account {account}',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://www.tallymast.example/tally.js?id=TM-7731"></script>',
        },
      ],
    },
    {
      name: 'Statistics',
      parts: [
        {
          placement: 'head-end',
          code: "<script>var _tmq = _tmq || []; _tmq.push(['setAccount', 'TM-7731']);</script><script async src=\"https://ssl.tallymast.example/tm.js\"></script>",
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
          code: '<script async src="https://www.tallymast.example/tally.js?id=TM-7731"></script>',
        },
      ],
    },
    {
      name: 'Pixel',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://glintpixel.example/glint.js?id=GP-4417"></script>',
        },
      ],
    },
  ],
  *run(set) {
    const same = new Set(sameCodePairs(set).map(([first, second]) => `${first.key} ${second.key}`));
    for (const [first, ...others] of groups(
      heldAccounts(set.running),
      ({ account }) => `${account.domain} ${account.value}`,
    )) {
      for (const second of others) {
        if (first!.part.snippet === second.part.snippet || same.has(`${first!.part.key} ${second.part.key}`))
          continue;
        const page = set.meeting(first!.part, second.part);
        if (page === undefined) continue;
        yield {
          about: `${second.account.domain} ${second.account.value} ${first!.part.key} ${second.part.key}`,
          message: 'same-account',
          params: {
            second: partName(second.part),
            first: partName(first!.part),
            account: second.account.value,
            domain: second.account.domain,
            page,
          },
          subjects: [subject(first!.part), subject(second.part)],
          evidence: [
            evidence(first!.part, first!.account.range, 'account'),
            evidence(second.part, second.account.range, 'account'),
          ],
        };
      }
    }
  },
});
