import type { ShapeKind } from '../../facts/index.js';
import { isFallback } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { groups } from '../groups.js';
import type { ReadPart } from '../read-part.js';
import { subject } from '../evidence.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';

/** Kinds of which visitors want one. */
const ONE_OF = ['chat', 'consent', 'accessibility'] as const satisfies readonly ShapeKind[];

const byKind = tieOfParts((part) => {
  const kind = kindOf(part);
  return kind === undefined ? [] : [kind];
});

export const twoOfAKind = defineCheck({
  id: 'two-of-a-kind',
  area: 'duplicates',
  severity: 'advice',
  title: 'Two of a kind, where one is enough',
  why: 'A page needs only one chat window, consent banner or accessibility menu. Often the old provider’s is left behind when a new one is added.',
  messages: {
    chat: {
      title: '{first} and {second} both look like a chat window',
      advice: 'Two chat windows cover each other in one corner. If one is no longer used, switch it off.',
    },
    consent: {
      title: '{first} and {second} both look like a consent banner',
      advice:
        'Visitors are asked twice, and the two answers may differ. If one is no longer used, switch it off.',
    },
    accessibility: {
      title: '{first} and {second} both look like an accessibility menu',
      advice:
        'Two menus change the same page and work against each other. If one is no longer used, switch it off.',
    },
  },
  isFixable: false,
  wrong: [
    {
      name: 'Harbour chat',
      parts: [
        { placement: 'body-end', code: '<script async src="https://parlanook.example/chat.js"></script>' },
      ],
    },
    {
      name: 'Old chat',
      parts: [
        {
          placement: 'body-end',
          code: '<script async src="https://quaytalk.example/chat/widget.js"></script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Harbour chat',
      parts: [
        { placement: 'body-end', code: '<script async src="https://parlanook.example/chat.js"></script>' },
      ],
    },
  ],
  ties: [byKind],
  *run(set) {
    const candidates = set.near.running.filter(
      (part) => kindOf(part) !== undefined && part.facts.loads.length > 0 && !isFallback(part),
    );
    for (const [first, ...others] of groups(candidates, ({ facts }) => facts.shape.kind)) {
      const domains = (hosts: readonly string[]): string => hosts.join();
      const second = others.find(
        (part) =>
          part.snippet !== first!.snippet &&
          // The same provider twice is told by the checks for accounts and addresses.
          domains(part.facts.hosts) !== domains(first!.facts.hosts) &&
          set.meeting(first!, part) !== undefined,
      );
      if (!second) continue;
      yield {
        about: first!.facts.shape.kind,
        message: kindOf(first!)!,
        params: { first: partName(first!), second: partName(second) },
        subjects: [subject(first!), subject(second)],
        evidence: [],
      };
    }
  },
});

function kindOf({ facts }: ReadPart): (typeof ONE_OF)[number] | undefined {
  return ONE_OF.find((kind) => kind === facts.shape.kind);
}
