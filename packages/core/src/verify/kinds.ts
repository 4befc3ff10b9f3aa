import type { ShapeKind } from '../facts/index.js';
import type { ReadPart } from './rungs/types.js';

/** Kinds of things that visitors see. */
const SHOWING: ReadonlySet<ShapeKind> = new Set([
  'chat',
  'ads',
  'pop-up',
  'booking',
  'form',
  'consent',
  'accessibility',
  'share',
]);
/** Kinds of things whose whole point is to report. */
const REPORTING: ReadonlySet<ShapeKind> = new Set(['analytics', 'pixel']);

/** Which of the upper rungs a snippet has: by what its code looks like, and what it makes. */
export function rungsOf(parts: readonly ReadPart[]): { readonly shows: boolean; readonly reports: boolean } {
  // What is only a guess is no reason to miss anything.
  const kinds = parts.map(({ facts: { shape } }) => (shape.confidence === 'guess' ? 'other' : shape.kind));
  return {
    shows: kinds.some((kind) => SHOWING.has(kind)) || parts.some(({ facts }) => facts.boxes.length > 0),
    reports: kinds.some((kind) => REPORTING.has(kind)),
  };
}
