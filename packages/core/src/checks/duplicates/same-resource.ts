import { normalAddress, type Load } from '../../facts/index.js';
import { memoizeByObject } from '../../memoize/by-object.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import type { ReadPart } from '../read-part.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';
import { haveTwoProducts } from './two-products.js';

interface Loaded {
  readonly part: ReadPart;
  readonly load: Load;
}

const addressOf = memoizeByObject(({ address }: Load) => normalAddress(address));

/** Addresses of the scripts that they load. */
export const byAddress = tieOfParts(({ facts }) =>
  facts.loads.flatMap((load) => (load.kind === 'script' ? addressOf(load) : [])),
);

export const sameResource = defineCheck({
  id: 'same-resource',
  area: 'duplicates',
  severity: 'warning',
  title: 'The same script loaded twice on one page',
  why: 'The second copy runs again: it may count twice, show twice, or undo what the first one set up.',
  messages: {
    'same-script': {
      title: '{second} loads the same script as {first}',
      advice: 'Both run on {page}, for example. Keep one of them, or run them on different pages.',
    },
  },
  roles: {
    first: 'loaded here',
    second: 'and again here',
  },
  explainsPairs: ['same-account'],
  isFixable: false,
  wrong: [
    {
      name: 'Chat',
      parts: [
        {
          placement: 'body-end',
          code: '<script async src="https://parlanook.example/chat.js?v=1"></script>',
        },
      ],
    },
    {
      name: 'Help',
      parts: [
        {
          placement: 'body-end',
          code: "<script>window.help = 1;var s=document.createElement('script');s.src='//parlanook.example/chat.js?v=2';document.body.appendChild(s)</script>",
        },
      ],
    },
  ],
  right: [
    {
      name: 'Chat',
      parts: [
        {
          placement: 'body-end',
          code: '<script async src="https://parlanook.example/chat.js?room=1"></script>',
        },
      ],
    },
    {
      name: 'Help',
      parts: [
        { placement: 'body-end', code: '<script async src="https://parlanook.example/help.js"></script>' },
      ],
    },
  ],
  ties: [byAddress],
  *run(set) {
    const loads = set.near.running.flatMap((part) =>
      part.facts.loads
        .filter(({ kind, noScript, address }) => kind === 'script' && !noScript && !address.includes('…'))
        .map((load): Loaded => ({ part, load })),
    );
    for (const [first, ...others] of groups(loads, ({ load }) => addressOf(load))) {
      for (const second of others) {
        if (first!.part === second.part) continue;
        if (first!.part.snippet !== second.part.snippet && haveTwoProducts(first!.part, second.part))
          continue;
        const page = set.meeting(first!.part, second.part);
        if (page === undefined) continue;
        yield {
          about: `${addressOf(second.load)} ${first!.part.key} ${second.part.key}`,
          message: 'same-script',
          params: { second: partName(second.part), first: partName(first!.part), page },
          subjects: [subject(first!.part), subject(second.part)],
          evidence: [
            evidence(first!.part, first!.load.range, 'first'),
            evidence(second.part, second.load.range, 'second'),
          ],
        };
      }
    }
  },
});
