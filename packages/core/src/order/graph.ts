/** A directed graph of a few things by their keys: an edge says that one must come before the other. */
export class Precedences {
  readonly #after = new Map<string, Set<string>>();

  constructor(edges: Iterable<readonly [first: string, then: string]>) {
    for (const [first, then] of edges) {
      this.#of(first).add(then);
      this.#of(then);
    }
  }

  get keys(): string[] {
    return [...this.#after.keys()];
  }

  #of(key: string): Set<string> {
    let after = this.#after.get(key);
    if (!after) this.#after.set(key, (after = new Set()));
    return after;
  }

  /** All that must come after each, directly or by way of others. */
  closure(): Map<string, ReadonlySet<string>> {
    const closure = new Map<string, ReadonlySet<string>>();
    for (const key of this.#after.keys()) {
      const reached = new Set<string>();
      const open = [key];
      for (let next = open.pop(); next !== undefined; next = open.pop())
        for (const then of this.#after.get(next)!)
          if (!reached.has(then)) {
            reached.add(then);
            open.push(then);
          }
      closure.set(key, reached);
    }
    return closure;
  }

  /** Groups that each need each other in a circle, in the order of the keys: strongly connected components (Tarjan 1972). */
  cycles(): string[][] {
    const found: string[][] = [];
    const index = new Map<string, number>();
    const low = new Map<string, number>();
    const stack: string[] = [];
    const onStack = new Set<string>();
    // By hand instead of by recursion: chains may be as long as the set.
    const visit = (root: string): void => {
      const work: { key: string; rest: Iterator<string> }[] = [];
      const enter = (key: string): void => {
        index.set(key, index.size);
        low.set(key, index.get(key)!);
        stack.push(key);
        onStack.add(key);
        work.push({ key, rest: this.#after.get(key)!.values() });
      };
      enter(root);
      for (let at = work.at(-1); at; at = work.at(-1)) {
        const { key, rest } = at;
        const next = rest.next();
        if (next.done !== true) {
          if (!index.has(next.value)) enter(next.value);
          else if (onStack.has(next.value)) low.set(key, Math.min(low.get(key)!, index.get(next.value)!));
          continue;
        }
        work.pop();
        const parent = work.at(-1);
        if (parent) low.set(parent.key, Math.min(low.get(parent.key)!, low.get(key)!));
        if (low.get(key) !== index.get(key)) continue;
        const group = stack.splice(stack.indexOf(key));
        for (const member of group) onStack.delete(member);
        if (group.length > 1) found.push(group);
      }
    };
    for (const key of this.#after.keys()) if (!index.has(key)) visit(key);
    return found;
  }

  /** Groups of which none has to do with another. */
  components(): string[][] {
    const near = new Map<string, string[]>(this.keys.map((key) => [key, []]));
    for (const [first, after] of this.#after)
      for (const then of after) {
        near.get(first)!.push(then);
        near.get(then)!.push(first);
      }
    const seen = new Set<string>();
    const found: string[][] = [];
    for (const key of near.keys()) {
      if (seen.has(key)) continue;
      seen.add(key);
      const group = [key];
      for (const member of group)
        for (const other of near.get(member)!)
          if (!seen.has(other)) {
            seen.add(other);
            group.push(other);
          }
      found.push(group);
    }
    return found;
  }
}
