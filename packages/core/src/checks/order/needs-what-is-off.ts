import { isBroughtByLoader } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { byName } from '../ties/by-name.js';
import { defineCheck } from '../check.js';
import { Makers, openUses, type Definer } from './definitions.js';
import { NAME_ROLES, sureness } from './evidence-of.js';

export const needsWhatIsOff = defineCheck({
  id: 'needs-what-is-off',
  area: 'order',
  severity: 'error',
  title: 'Code needs something that is off, or off on that page',
  why: 'When the snippet that defines a function is off, or does not run on a page, whatever calls that function stops with an error.',
  messages: {
    off: {
      title: '{user} {sure, select, guess {seems to need} other {needs}} {maker}, which is switched off',
      advice:
        '{sure, select, guess {{file} probably defines “{name}”, judging by its name. } other {}}Switch {maker} on, or {user} off.',
    },
    archived: {
      title: '{user} {sure, select, guess {seems to need} other {needs}} {maker}, which is archived',
      advice:
        '{sure, select, guess {{file} probably defines “{name}”, judging by its name. } other {}}Switch {maker} on, or {user} off.',
    },
    'other-pages': {
      title: '{user} runs where {maker} does not',
      advice:
        '{sure, select, guess {{file} probably defines “{name}”, judging by its name. That} other {“{name}”}} is missing there, for example on {page}. Run {maker} wherever {user} runs.',
    },
  },
  roles: NAME_ROLES,
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
  ties: [byName],
  *run(set) {
    const makers = new Makers(set);
    const told = new Set<string>();
    for (const { part, use } of openUses(set)) {
      const all = makers.of(use.name);
      const own = all.some(({ part: maker }) => maker.isOn && maker.snippet === part.snippet);
      if (all.length === 0 || own || set.pageCode.isBrought(use.name, part.snippet)) continue;
      const on = all.filter(({ part: maker }) => maker.isOn);
      const isGuess = (on[0] ?? all[0]!).definition.confidence === 'guess';
      // A script that it loads itself may bring any name, but another one is called so.
      if (isBroughtByLoader(part, use) && !isGuess) continue;
      if (isGuess && told.has(`${part.key} ${use.name}`)) continue;
      told.add(`${part.key} ${use.name}`);
      const found = <const Message extends string>(
        { part: maker, definition }: Definer,
        message: Message,
        page = '',
      ) => ({
        about: `${use.name} ${maker.snippet.key}`,
        message,
        params: {
          user: partName(part),
          maker: partName(maker),
          name: use.name,
          page,
          ...sureness(definition),
        },
        subjects: [subject(part), subject(maker)],
        evidence: [
          evidence(part, use.range, 'uses'),
          evidence(maker, definition.range, isGuess ? 'called' : 'defines'),
        ],
        severity: use.when === 'later' || isGuess ? ('warning' as const) : ('error' as const),
      });
      if (on.length === 0) {
        const maker = all[0]!;
        yield found(maker, maker.part.snippet.state === 'archived' ? 'archived' : 'off');
        continue;
      }
      const makersOn = [...new Set(on.map((maker) => maker.part.snippet))];
      const page = set.outsideAll(part.snippet, makersOn);
      if (page !== undefined) yield found(on[0]!, 'other-pages', page);
    }
  },
});
