import { isBroughtByLoader } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';
import { definers, openUses } from './definitions.js';
import { NAME_ROLES } from './evidence-of.js';

export const needsWhatIsOff = defineCheck({
  id: 'needs-what-is-off',
  area: 'order',
  severity: 'error',
  title: 'Code that needs something that is off, or off on that page',
  why: 'When the snippet that brings a function is switched off, or does not run on a page, whatever calls that function stops with an error there.',
  messages: {
    off: {
      title: '{user} needs {maker}, which is switched off',
      advice: 'Switch {maker} on, or {user} off.',
    },
    archived: {
      title: '{user} needs {maker}, which is archived',
      advice: 'Switch {maker} on, or {user} off.',
    },
    'other-pages': {
      title: '{user} runs where {maker} does not',
      advice: '“{name}” is missing there, for example: {page}. Let {maker} run wherever {user} does.',
    },
  },
  roles: {
    ...NAME_ROLES,
  },
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
      if (isBroughtByLoader(part, use) || set.pageCode.isBrought(use.name, part.snippet)) continue;
      const all = makers.get(use.name) ?? [];
      if (all.length === 0) continue;
      const on = all.filter(({ part: maker }) => maker.isOn);
      const found = <const Message extends string>(
        maker: (typeof all)[number],
        message: Message,
        page = '',
      ) => ({
        about: `${use.name} ${maker.part.snippet.key}`,
        message,
        params: { user: partName(part), maker: partName(maker.part), name: use.name, page },
        subjects: [subject(part), subject(maker.part)],
        evidence: [
          evidence(part, use.range, 'uses'),
          evidence(maker.part, maker.definition.range, 'defines'),
        ],
        severity: use.when === 'later' ? ('warning' as const) : ('error' as const),
      });
      if (on.length === 0) {
        const maker = all[0]!;
        yield found(maker, maker.part.snippet.state === 'archived' ? 'archived' : 'off');
        continue;
      }
      const makersOn = [...new Set(on.map((maker) => maker.part.snippet))];
      const page = makersOn.includes(part.snippet) ? undefined : set.outsideAll(part.snippet, makersOn);
      if (page !== undefined) yield found(on[0]!, 'other-pages', page);
    }
  },
});
