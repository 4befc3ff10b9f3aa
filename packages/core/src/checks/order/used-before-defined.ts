import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { ORDER_FIX, NO_MOVES } from '../set-order.js';
import { NAME_ROLES, sureness } from './evidence-of.js';
import { earlyUses } from './early-use.js';
import { fileName, withoutAttribute } from '../tag-text.js';
import { defineCheck } from '../check.js';

const READY_LATER =
  '{sure, select, guess {{file} probably defines} other {{maker} defines}} “{name}” {ready, select, parse {where it is} deferred {once the whole page has been read} async {whenever its script arrives} other {on an event or after a delay}}. Use its queue if it has one, or wait for it.';

export const usedBeforeDefined = defineCheck({
  id: 'used-before-defined',
  area: 'order',
  severity: 'error',
  title: 'Code needs something that comes later',
  why: 'Browsers run code from the top of the page to the bottom. Code that needs something defined further down stops with an error.',
  messages: {
    later: {
      title: '{user} {sure, select, guess {seems to need} other {needs}} {maker}, which comes later',
      advice:
        '{sure, select, guess {{file} probably defines “{name}”, judging by its name. } other {}}Move {maker} above {user}, or {user} below {maker}.',
      fix: ORDER_FIX,
    },
    'ready-later': {
      title:
        '{user} {sure, select, guess {seems to need} other {needs}} {maker}, which is not ready until later',
      advice: READY_LATER,
    },
    'race-by-order': {
      title: '{user} may run before {maker} is ready',
      advice:
        '{sure, select, guess {{file} probably defines “{name}”, judging by its name. } other {}}Move {maker} above {user}, or {user} below {maker}.',
      fix: ORDER_FIX,
    },
    race: {
      title: '{user} may run before {maker} is ready',
      advice: READY_LATER,
    },
    'own-file-async': {
      title: '{user} may use “{name}” before its own file arrives',
      advice:
        '{file} probably defines “{name}”, judging by its name, and with “async” it may arrive at any time. Remove “async” from its tag, or use the queue that the provider offers.',
      fix: 'Remove “async” from the tag of {file}.',
    },
    'own-file-deferred': {
      title: '{user} uses “{name}” before its own file runs',
      advice:
        '{file} probably defines “{name}”, judging by its name, and it runs only after the whole page has been read. Remove “defer” from its tag, or wait for the page.',
      fix: 'Remove “defer” from the tag of {file}.',
    },
    'own-file-below': {
      title: '{user} uses “{name}” above the file that defines it',
      advice:
        '{file} probably defines “{name}”, judging by its name. Move the tag that loads it above the code that uses it.',
    },
  },
  roles: NAME_ROLES,
  isFixable: true,
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
  *runOnWhole(set) {
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict, isByOrder } = dependency;
      // What runs later on an event finds it there nearly always.
      if (reason.kind !== 'name' || verdict === 'fine' || reason.use.when === 'later') continue;
      const { name } = reason;
      const isGuess = reason.definition.confidence === 'guess';
      const isRace = verdict === 'race';
      const fix = set.order.fixFor(dependency);
      yield {
        about: `${name} ${first.key}`,
        ...(isByOrder
          ? { message: isRace ? 'race-by-order' : 'later', ...(fix ? { fix: fix.fix } : {}) }
          : { message: isRace ? 'race' : 'ready-later' }),
        params: {
          user: partName(then),
          maker: partName(first),
          name,
          ready: reason.definition.when,
          ...sureness(reason.definition),
          ...NO_MOVES,
          ...fix?.params,
        },
        subjects: [subject(then), subject(first)],
        evidence: [
          evidence(then, reason.use.range, 'uses'),
          evidence(first, reason.definition.range, isGuess ? 'called' : 'defines'),
        ],
        severity: isRace || isGuess ? 'warning' : 'error',
      };
    }
  },
  *run(set) {
    for (const part of set.running)
      for (const { use, load } of earlyUses(set, part)) {
        const { mode } = load;
        const isAbove = load.range.start < use.range.start;
        const attribute = mode === 'async' ? 'async' : 'defer';
        const code = load.by === 'tag' ? withoutAttribute(part.code, load.range, attribute) : undefined;
        yield {
          about: `${use.name} ${load.address}`,
          ...(isAbove && mode !== 'module'
            ? {
                message: mode === 'async' ? 'own-file-async' : 'own-file-deferred',
                ...(code === undefined ? {} : { fix: [{ kind: 'edit-code', part: part.key, code }] }),
              }
            : { message: 'own-file-below' }),
          params: { user: partName(part), name: use.name, file: fileName(load.address) },
          subjects: [subject(part)],
          evidence: [evidence(part, use.range, 'uses'), evidence(part, load.range, 'called')],
          severity: 'warning',
        };
      }
  },
});
