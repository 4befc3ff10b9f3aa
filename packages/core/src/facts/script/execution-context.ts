import type { ExecutionPhase } from '../types.js';
import type { Scope } from './scope.js';
import type { Value } from './values.js';

/** What has been asked for before it is used, and how often: globals by name, elements by `elementGuard`. */
export class Guards {
  readonly #counts: Map<string, number>;

  constructor(counts?: ReadonlyMap<string, number>) {
    this.#counts = new Map(counts);
  }

  add(name: string): void {
    this.#counts.set(name, (this.#counts.get(name) ?? 0) + 1);
  }

  remove(name: string): void {
    this.#counts.set(name, (this.#counts.get(name) ?? 0) - 1);
  }

  has(name: string): boolean {
    return (this.#counts.get(name) ?? 0) > 0;
  }

  copy(): Guards {
    return new Guards(this.#counts);
  }
}

/** The state of a function, or of a script, while it runs (ECMAScript 9.4, execution contexts). */
export interface ExecutionContext {
  readonly scope: Scope<Value>;
  readonly phase: ExecutionPhase;
  readonly thisValue: Value;
  /** Names declared here become globals: outside of functions, blocks and modules. */
  readonly isTopLevel: boolean;
  /** `try` statements with a `catch` around what runs. */
  readonly tries: number;
  readonly guards: Guards;
}

/** Whether a global, or an element, may be missing without stopping the script here. */
export function isGuarded({ tries, guards }: ExecutionContext, name: string): boolean {
  return tries > 0 || guards.has(name);
}
