import type { OrderPart } from '../order/index.js';
import type { ReadCode } from '../facts/index.js';

/** A part of a set with what was read out of its code. */
export interface ReadPart extends OrderPart {
  readonly code: string;
  /** What checks work out of the code once, they keep by this object. */
  readonly read: ReadCode;
  /** Its snippet is switched on. */
  readonly isOn: boolean;
  readonly isInHead: boolean;
}
