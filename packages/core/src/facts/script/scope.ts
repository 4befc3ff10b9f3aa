import { UNDEFINED, type Value } from './values.js';

/** Names and what they hold (ECMAScript 9.1, environment records), without what only a run could know. */
export class Scope {
  readonly parent: Scope | undefined;
  /** Where `var` and function declarations go: functions and the program. */
  readonly isFunction: boolean;
  readonly #names = new Map<string, Value>();

  constructor(parent: Scope | undefined, isFunction: boolean) {
    this.parent = parent;
    this.isFunction = isFunction;
  }

  declare(name: string, value: Value = UNDEFINED): void {
    this.#names.set(name, value);
  }

  has(name: string): boolean {
    return this.#names.has(name);
  }

  /** The nearest scope that declares the name. */
  find(name: string): Scope | undefined {
    if (this.#names.has(name)) return this;
    return this.parent?.find(name);
  }

  get(name: string): Value | undefined {
    return this.#names.get(name);
  }

  set(name: string, value: Value): void {
    this.#names.set(name, value);
  }

  functionScope(): Scope {
    return this.isFunction ? this : this.parent!.functionScope();
  }
}
