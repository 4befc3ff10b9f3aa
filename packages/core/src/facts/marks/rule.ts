import type { Mark, MarkKind } from '../types.js';

/** A value that should not go live as it is, by its look. Patterns are linear, and global. */
export interface MarkRule {
  readonly kind: MarkKind;
  readonly confidence: Mark['confidence'];
  /** What any code has that the pattern may find: most have not, and are not looked through. */
  readonly hint: RegExp;
  readonly pattern: RegExp;
  /** Whether what the pattern found is meant; all when left out. */
  readonly isMeant?: (found: string) => boolean;
}
