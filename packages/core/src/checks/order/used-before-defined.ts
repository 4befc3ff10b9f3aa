import type { ExecutionPhase } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import type { Check } from '../check.js';

export const usedBeforeDefined: Check = {
  id: 'used-before-defined',
  area: 'order',
  severity: 'error',
  title: 'Code that needs something that comes later',
  why: 'A browser runs code from the top of the page to its foot. Code that needs what another snippet brings further down stops with an error.',
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
      const [maker, user] = [partName(first), partName(then)];
      const { name } = reason;
      const isRace = verdict === 'race';
      const fix = set.order.fixFor(dependency);
      yield {
        about: `${name} ${first.key}`,
        title: isRace
          ? `${user} may run before ${maker} is ready`
          : isByOrder
            ? `${user} needs ${maker}, which comes later`
            : `${user} needs ${maker}, which is ready only later`,
        advice: isByOrder
          ? `Move ${maker} in front of ${user}, or ${user} behind ${maker}.`
          : `${maker} makes “${name}” ${READY[reason.definition.when]}. Use its queue if it has one, or wait for it.`,
        subjects: [subject(then), subject(first)],
        evidence: [
          evidence(then, reason.use.range, `needs “${name}”`),
          evidence(first, reason.definition.range, `makes “${name}”`),
        ],
        severity: isRace ? 'warning' : 'error',
        ...(fix ? { fix } : {}),
      };
    }
  },
};

const READY: Readonly<Record<ExecutionPhase, string>> = {
  parse: 'at its place',
  deferred: 'when the whole page has been read',
  async: 'when its script has arrived, sooner or later',
  later: 'on an event or after a while',
};
