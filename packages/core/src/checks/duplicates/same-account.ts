import { memoizeByObject } from '../../memoize/by-object.js';
import { domainOf, type Account, type Facts, type Range, type ReadCode } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import type { CheckedSet } from '../checked-set.js';
import type { ReadPart } from '../read-part.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';
import { areTwoProducts } from './two-products.js';

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

/** Something that a part loads or starts with an account. */
interface Install {
  readonly part: ReadPart;
  readonly value: string;
  readonly range: Range;
}

/** Accounts that are hardly anything else by chance. */
function isDistinctive(value: string): boolean {
  return value.length >= 5 && /\d/.test(value) && (/[a-z]/i.test(value) || /^\d{6,}$/.test(value));
}

const TOKEN = /[A-Za-z0-9][\w-]{4,63}/g;

/** What in a code looks like accounts, each with where it stands first. */
const tokensOf = memoizeByObject(({ code }: ReadCode): ReadonlyMap<string, number> => {
  const found = new Map<string, number>();
  for (const { 0: token, index } of code.matchAll(TOKEN))
    if (isDistinctive(token) && !found.has(token)) found.set(token, index);
  return found;
});

/** Scripts that a part loads from a provider, and pictures, as old counters are: kind and domain. */
const sourcesOf = memoizeByObject(({ loads }: Facts): ReadonlySet<string> => {
  const own = loads.flatMap(({ kind, noScript, address, by }) => {
    const isSource = kind === 'script' || (kind === 'image' && by === 'tag');
    const domain = isSource && !noScript ? domainOf(address) : undefined;
    return domain === undefined ? [] : [`${kind} ${domain}`];
  });
  return new Set(own);
});

/** Accounts that they hold, and what looks like one. */
export const byAccount = tieOfParts(({ facts, read }) => [
  ...facts.accounts.map(({ value }) => value),
  ...tokensOf(read).keys(),
]);

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
    'same-start': {
      title: '{second} starts “{domain}” again with the account of {first}',
      advice: 'Both start it with {account}, on {page} for example. Keep the start in one of them.',
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
  ties: [byAccount],
  *run(set) {
    for (const holders of holdersOf(set))
      for (const [index, first] of holders.entries())
        for (const second of holders.slice(index + 1)) {
          if (first.part.snippet === second.part.snippet) continue;
          const shared = sharedBy(first, second);
          if (!shared || areTwoProducts(first.part, second.part)) continue;
          const page = set.meeting(first.part, second.part);
          if (page === undefined) continue;
          yield {
            about: `${shared.name} ${second.value} ${first.part.key} ${second.part.key}`,
            message: shared.message,
            params: {
              second: partName(second.part),
              first: partName(first.part),
              account: second.value,
              domain: shared.name,
              page,
            },
            subjects: [subject(first.part), subject(second.part)],
            evidence: [
              evidence(first.part, first.range, 'account'),
              evidence(second.part, second.range, 'account'),
            ],
          };
        }
  },
});

/** Installs of one account are compared with each other as far as this; so many are no accident any more. */
const MAX_COMPARED = 20;

/** The parts that hold an account, account by account, in page order. */
function holdersOf({ near: { running } }: CheckedSet): Install[][] {
  const accounts = new Set(
    running.flatMap(({ facts }) => facts.accounts.map(({ value }) => value).filter(isDistinctive)),
  );
  const sure = new Set(heldAccounts(running).map(({ account }) => account.value));
  const found = new Map<string, Install[]>();
  const add = (part: ReadPart, value: string, range: Range): void => {
    const list = found.get(value);
    if (!list) found.set(value, [{ part, value, range }]);
    else if (list.at(-1)!.part !== part && list.length < MAX_COMPARED) list.push({ part, value, range });
  };
  for (const part of running) {
    for (const { value, range, confidence } of part.facts.accounts)
      if (sure.has(value) && confidence === 'certain') add(part, value, range);
    for (const [value, start] of tokensOf(part.read))
      if (accounts.has(value)) add(part, value, { start, end: start + value.length });
  }
  return [...found.values()].filter((list) => list.length > 1);
}

/** What two parts both load or start with an account; undefined where one of them merely names it. */
function sharedBy(
  { part: first, value }: Install,
  { part: second }: Install,
): { message: 'same-account' | 'same-start'; name: string } | undefined {
  const sources = sourcesOf(second.facts);
  for (const source of sourcesOf(first.facts))
    if (sources.has(source)) return { message: 'same-account', name: source.split(' ')[1]! };
  const starts = (part: ReadPart): string[] =>
    part.facts.accounts.flatMap((one) => (one.value === value ? one.starts : []));
  const started = new Set(starts(first));
  const twice = starts(second).find((name) => started.has(name));
  return twice === undefined ? undefined : { message: 'same-start', name: twice };
}
