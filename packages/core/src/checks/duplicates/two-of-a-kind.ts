import type { ShapeKind } from '../../facts/index.js';
import { isFallback } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { groups } from '../groups.js';
import { subject } from '../evidence.js';
import type { Check } from '../check.js';

/** Kinds of which visitors want one, and what they see where there are two. */
const ONE_OF: Partial<Readonly<Record<ShapeKind, { readonly name: string; readonly seen: string }>>> = {
  chat: { name: 'chat window', seen: 'Two chat windows lie on each other in one corner.' },
  consent: {
    name: 'question for consent',
    seen: 'Visitors are asked twice, and the two answers may differ.',
  },
  accessibility: {
    name: 'accessibility menu',
    seen: 'Two menus change the same page, each against the other.',
  },
};

export const twoOfAKind: Check = {
  id: 'two-of-a-kind',
  area: 'duplicates',
  severity: 'advice',
  title: 'Two things of a kind of which a page wants one',
  why: 'Of a chat window, a question for consent or an accessibility menu a page wants one. Often the old provider’s stays behind when a new one comes.',
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
  *run(set) {
    const candidates = set.running.filter(
      (part) => ONE_OF[part.facts.shape.kind] && part.facts.loads.length > 0 && !isFallback(part),
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
      const { name, seen } = ONE_OF[first!.facts.shape.kind]!;
      yield {
        about: first!.facts.shape.kind,
        title: `${partName(first!)} and ${partName(second)} both look like a ${name}`,
        advice: `${seen} If one of them is not used any more, switch it off.`,
        subjects: [subject(first!), subject(second)],
        evidence: [],
      };
    }
  },
};
