import { memoizeByObject } from '../../memoize/by-object.js';
import type { ShapeKind } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { isWaitedFor } from '../order/early-use.js';
import type { CheckedSet } from '../checked-set.js';
import type { ReadPart } from '../read-part.js';
import { BY_NEED } from '../ties/by-need.js';
import { defineCheck } from '../check.js';

/** Kinds that hold other code back, or fill what comes after them: they have to come first. */
const MUST_WAIT: ReadonlySet<ShapeKind> = new Set(['consent']);

/** Whether its provider, somebody or a recipe says that it must have run before others. */
function isNeededFirst(set: CheckedSet, part: ReadPart): boolean {
  const { statement } = part.part;
  if (statement !== undefined && /\bfirst\b|\bnot (?:be )?(?:async|defer)|\bsynchronous/i.test(statement))
    return true;
  return neededFirst(set).has(part.snippet.key);
}

const neededFirst = memoizeByObject(
  (set: CheckedSet): ReadonlySet<string> =>
    new Set(
      set.order.dependencies.flatMap(({ first, reason }) =>
        reason.kind === 'stated' || reason.kind === 'recipe' ? [first.snippet.key] : [],
      ),
    ),
);

export const blockingScript = defineCheck({
  id: 'blocking-script',
  area: 'safety',
  severity: 'advice',
  title: 'The whole page waits for a script',
  why: 'Visitors see nothing until it has arrived. If the provider’s server is slow or down, so is your page.',
  messages: {
    waits: {
      title: 'The page waits for {part}',
      advice:
        'If the provider’s instructions allow it, add “async” to the tag, or move the code to the end of the body.',
    },
  },
  roles: {
    script: 'everything after this waits',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [{ placement: 'head-end', code: '<script src="https://tallymast.example/count.js"></script>' }],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [
        { placement: 'head-end', code: '<script async src="https://tallymast.example/count.js"></script>' },
      ],
    },
    {
      name: 'Consent',
      parts: [
        { placement: 'head-start', code: '<script src="https://biscuitkeel.example/consent.js"></script>' },
      ],
    },
  ],
  ties: BY_NEED,
  *run(set) {
    for (const part of set.running) {
      // What asks for consent has to come first.
      if (!part.isInHead || MUST_WAIT.has(part.facts.shape.kind) || isNeededFirst(set, part)) continue;
      const load = part.facts.loads.find(
        ({ kind, mode, noScript }) => kind === 'script' && mode === 'blocking' && !noScript,
      );
      if (!load || isWaitedFor(set, part, load)) continue;
      yield {
        about: load.address,
        message: 'waits',
        params: { part: partName(part) },
        subjects: [subject(part)],
        evidence: [evidence(part, load.range, 'script')],
      };
    }
  },
});
