import type { ShapeKind } from '../../facts/index.js';
import { isAnchor, placementWords } from '../../insert/index.js';
import { partName } from '../../snapshot/index.js';
import { tieToAll } from '../tie.js';
import { defineCheck } from '../check.js';
import { subject } from '../evidence.js';

const ASK = '<script src="https://biscuitkeel.example/consent.js"></script>';
const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';

/** What a question for consent is asked for. */
const ASKED_FOR: ReadonlySet<ShapeKind> = new Set(['analytics', 'pixel', 'ads']);
/** So many parts that run before a question are named. */
const MAX_LOOKED_AT = 50;

/** What belongs at the front by what it is, where nobody said where it goes. */
export const lateByKind = defineCheck({
  id: 'late-by-kind',
  area: 'order',
  severity: 'advice',
  title: 'Something comes later than its kind should',
  why: 'A consent banner has to come before whatever needs consent, and a tag container starts everything in it.',
  messages: {
    'consent-later': {
      title: '{part} asks for consent, and {others} {count, plural, one {runs} other {run}} before it',
      advice:
        'Tracking and advertising should wait for the visitor’s answer. Move the banner to the start of the head, above whatever needs consent, or have that wait for consent.',
    },
    'container-late': {
      title: '{part} is a tag container {place}',
      advice:
        'Everything in it starts later than it could, and short visits are missed. Its provider did not say where it goes; containers usually belong at the start of the head.',
    },
  },
  isFixable: false,
  wrong: [
    { name: 'Counter', parts: [{ placement: 'head-end', code: COUNTER }] },
    { name: 'Cookie question', parts: [{ placement: 'head-end', code: ASK }] },
  ],
  right: [
    { name: 'Cookie question', parts: [{ placement: 'head-start', code: ASK }] },
    { name: 'Counter', parts: [{ placement: 'head-end', code: COUNTER }] },
  ],
  ties: [tieToAll(({ facts }) => facts.shape.kind === 'consent')],
  *run(set) {
    for (const part of set.running) {
      const { kind, confidence } = part.facts.shape;
      const isScript = part.facts.loads.some((load) => load.kind === 'script' && !load.noScript);
      if (confidence === 'guess' || !isScript || part.part.statement !== undefined) continue;
      const about = {
        about: `kind ${kind}`,
        subjects: [subject(part)],
        evidence: [],
      };
      if (kind === 'container' && !part.isInHead && !isAnchor(part.part.placement)) {
        const place = placementWords(part.part.placement);
        yield { ...about, message: 'container-late', params: { part: partName(part), place } };
      }
      if (kind !== 'consent') continue;
      const before = set.near.running
        .slice(0, MAX_LOOKED_AT)
        .filter(
          (other) =>
            other.position < part.position &&
            other.snippet !== part.snippet &&
            other.snippet.limits?.consent === undefined &&
            ASKED_FOR.has(other.facts.shape.kind) &&
            set.meeting(part, other) !== undefined,
        );
      if (before.length > 0)
        yield {
          ...about,
          message: 'consent-later',
          params: { part: partName(part), others: before.map(partName), count: before.length },
          subjects: [part, ...before].map(subject),
        };
    }
  },
});
