import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { ORDER_FIX, NO_MOVES } from '../set-order.js';
import { NAME_ROLES } from './evidence-of.js';
import { defineCheck } from '../check.js';

export const usedBeforeDefined = defineCheck({
  id: 'used-before-defined',
  area: 'order',
  severity: 'error',
  title: 'Code that needs something that comes later',
  why: 'A browser runs code from the top of the page to its foot. Code that needs what another snippet brings further down stops with an error.',
  messages: {
    later: {
      title: '{user} needs {maker}, which comes later',
      advice: 'Move {maker} in front of {user}, or {user} behind {maker}.',
      fix: ORDER_FIX,
    },
    'ready-later': {
      title: '{user} needs {maker}, which is ready only later',
      advice:
        '{maker} makes “{name}” {ready, select, parse {at its place} deferred {when the whole page has been read} async {when its script has arrived, sooner or later} other {on an event or after a while}}. Use its queue if it has one, or wait for it.',
    },
    'race-by-order': {
      title: '{user} may run before {maker} is ready',
      advice: 'Move {maker} in front of {user}, or {user} behind {maker}.',
      fix: ORDER_FIX,
    },
    race: {
      title: '{user} may run before {maker} is ready',
      advice:
        '{maker} makes “{name}” {ready, select, parse {at its place} deferred {when the whole page has been read} async {when its script has arrived, sooner or later} other {on an event or after a while}}. Use its queue if it has one, or wait for it.',
    },
  },
  roles: {
    ...NAME_ROLES,
  },
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
  *run(set) {
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict, isByOrder } = dependency;
      // What runs later on an event finds it there nearly always.
      if (reason.kind !== 'name' || verdict === 'fine' || reason.use.when === 'later') continue;
      const { name } = reason;
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
          ...NO_MOVES,
          ...fix?.params,
        },
        subjects: [subject(then), subject(first)],
        evidence: [
          evidence(then, reason.use.range, 'uses'),
          evidence(first, reason.definition.range, 'defines'),
        ],
        severity: isRace ? 'warning' : 'error',
      };
    }
  },
});
