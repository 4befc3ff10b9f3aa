import type { Expression, Node } from 'acorn';
import type { Range } from '../types.js';
import type { ExecutionContext } from './execution-context.js';
import type { Record } from './record.js';
import type { FunctionValue, Value } from './values.js';

/** How a statement list ended. */
export type Completion = 'goes-on' | 'leaves';

/** The one who follows a script, as those who read a kind of node know it: they are given it, and give it on. */
export interface Walker {
  readonly record: Record;
  readonly context: ExecutionContext;
  readonly isModule: boolean;
  /** The node's place in the pasted text. */
  range(node: Node): Range;
  /** Takes a step. @returns whether the script has been followed as far as it is worth */
  isExhausted(): boolean;
  evaluate(node: Expression): Value;
  /** Runs something in a block's own scope. */
  inBlock(run: () => Completion): Completion;
  /** Runs something that stands within `try`. */
  inTry<T>(run: () => T): T;
  /** Runs something that runs only where these are there. */
  guarded<T>(names: readonly string[], run: () => T): T;
  /** The rest of the function runs later, as after `await`. */
  continueLater(): void;
  /** The function gives a value back. */
  giveBack(value: Value): void;
  /** A function was written; it may never be called. */
  created(fn: FunctionValue): FunctionValue;
  /** Runs a function now. @returns what it gives back */
  call(fn: FunctionValue, args: readonly Value[], thisValue: Value): Value;
  /** Runs a function at another moment, if it is one. */
  callLater(value: Value | undefined, args?: readonly Value[]): void;
}
