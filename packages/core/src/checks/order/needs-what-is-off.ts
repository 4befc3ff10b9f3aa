import { isBroughtByLoader } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import type { Check } from '../check.js';
import type { Found } from '../finding.js';
import { definers, openUses } from './definitions.js';

export const needsWhatIsOff: Check = {
  id: 'needs-what-is-off',
  area: 'order',
  severity: 'error',
  title: 'Code that needs something that is off, or off on that page',
  why: 'When the snippet that brings a function is switched off, or does not run on a page, whatever calls that function stops with an error there.',
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      state: 'off',
      parts: [
        {
          placement: 'head-start',
          code: '<script>function tally(){(tally.q = tally.q || []).push(arguments)}</script>',
        },
      ],
    },
    {
      name: 'Fares event',
      parts: [{ placement: 'head-end', code: "<script>tally('event', 'fares');</script>" }],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-start',
          code: '<script>function tally(){(tally.q = tally.q || []).push(arguments)}</script>',
        },
      ],
    },
    {
      name: 'Fares event',
      include: ['/fares'],
      parts: [{ placement: 'head-end', code: "<script>tally('event', 'fares');</script>" }],
    },
  ],
  *run(set) {
    const makers = definers(set);
    for (const { part, use } of openUses(set)) {
      if (isBroughtByLoader(part, use)) continue;
      const all = makers.get(use.name) ?? [];
      if (all.length === 0) continue;
      const on = all.filter(({ part: maker }) => maker.isOn);
      const found = (maker: (typeof all)[number], title: string, advice: string): Found => ({
        about: `${use.name} ${maker.part.snippet.key}`,
        title,
        advice,
        subjects: [subject(part), subject(maker.part)],
        evidence: [
          evidence(part, use.range, `needs “${use.name}”`),
          evidence(maker.part, maker.definition.range, `makes “${use.name}”`),
        ],
        severity: use.when === 'later' ? 'warning' : 'error',
      });
      if (on.length === 0) {
        const maker = all[0]!;
        const state = maker.part.snippet.state === 'archived' ? 'archived' : 'switched off';
        yield found(
          maker,
          `${partName(part)} needs ${partName(maker.part)}, which is ${state}`,
          `Switch ${partName(maker.part)} on, or ${partName(part)} off.`,
        );
        continue;
      }
      const makersOn = [...new Set(on.map((maker) => maker.part.snippet))];
      const page = makersOn.includes(part.snippet) ? undefined : set.outsideAll(part.snippet, makersOn);
      if (page !== undefined)
        yield found(
          on[0]!,
          `${partName(part)} runs where ${partName(on[0]!.part)} does not`,
          `“${use.name}” is missing there, for example: ${page}. Let ${partName(on[0]!.part)} run wherever ${partName(part)} does.`,
        );
    }
  },
};
