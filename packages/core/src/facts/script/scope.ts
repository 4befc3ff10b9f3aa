/** Names and what they hold (ECMAScript 9.1, environment records), without what only a run could know. */
export class Scope<V> {
  readonly parent: Scope<V> | undefined;
  readonly #names = new Map<string, V>();

  constructor(parent: Scope<V> | undefined) {
    this.parent = parent;
  }

  declare(name: string, value: V): void {
    this.#names.set(name, value);
  }

  has(name: string): boolean {
    return this.#names.has(name);
  }

  /** The nearest scope that declares the name. */
  find(name: string): Scope<V> | undefined {
    if (this.#names.has(name)) return this;
    return this.parent?.find(name);
  }

  get(name: string): V | undefined {
    return this.#names.get(name);
  }

  set(name: string, value: V): void {
    this.#names.set(name, value);
  }
}
