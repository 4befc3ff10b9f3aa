import { evidence, nameOf, subject } from '../checked-set.js';
import type { Check } from '../types.js';
import { bringsLibrary, definers, openUses } from './definitions.js';

export const usedBeforeDefined: Check = {
  id: 'used-before-defined',
  area: 'order',
  severity: 'error',
  title: 'Code that needs something that comes later',
  why: 'A browser runs code from the top of the page to its foot. Code that needs what another snippet brings further down stops with an error.',
  wrong: [
    {
      name: 'Fares event',
      parts: [{ placement: 'head-start', code: "<script>tally('event', 'fares');</script>" }],
    },
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script>function tally(){(tally.q = tally.q || []).push(arguments)}</script><script async src="https://tallymast.example/t.js"></script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-start',
          code: '<script>function tally(){(tally.q = tally.q || []).push(arguments)}</script><script async src="https://tallymast.example/t.js"></script>',
        },
      ],
    },
    {
      name: 'Fares event',
      parts: [{ placement: 'head-end', code: "<script>tally('event', 'fares');</script>" }],
    },
    {
      name: 'On a click',
      parts: [
        {
          placement: 'head-start',
          code: "<script>addEventListener('click', function () { tally('event', 'click'); });</script>",
        },
      ],
    },
  ],
  *run(set) {
    const makers = definers(set);
    for (const { part, use } of openUses(set)) {
      if (use.when !== 'parse' || bringsLibrary(part, use)) continue;
      const there = (makers.get(use.name) ?? []).filter(
        ({ part: maker }) => maker.isOn && set.meeting(part, maker) !== undefined,
      );
      if (there.length === 0) continue;
      const isFine = there.some(
        ({ part: maker, definition }) => definition.when === 'parse' && maker.position <= part.position,
      );
      if (isFine) continue;
      const { part: maker, definition } = there[0]!;
      const isRace = definition.when !== 'parse' && maker.position < part.position;
      yield {
        about: `${use.name} ${maker.key}`,
        title: isRace
          ? `${nameOf(part)} may run before ${nameOf(maker)} is ready`
          : `${nameOf(part)} needs ${nameOf(maker)}, which comes later`,
        advice: isRace
          ? `${nameOf(maker)} makes “${use.name}” only when its script has arrived. Use its queue, or wait for it.`
          : `Move ${nameOf(maker)} in front of ${nameOf(part)}.`,
        subjects: [subject(part), subject(maker)],
        evidence: [
          evidence(part, use.range, `needs “${use.name}”`),
          evidence(maker, definition.range, `makes “${use.name}”`),
        ],
        severity: isRace ? 'warning' : 'error',
      };
    }
  },
};
