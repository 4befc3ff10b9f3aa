/**
 * The lightest set of items that touches every pair, where the pairs are a strict partial order (transitive). By
 * Dilworth's theorem for weighted items the rest is the heaviest antichain, which a maximum flow finds: source to each
 * item's left half, right half to sink, both with the item's weight; left half of the smaller to right half of the
 * greater without limit (Fulkerson 1956). Augmenting paths are shortest ones (Edmonds and Karp 1972).
 *
 * @param weights - of the items, 0 to n-1; positive
 * @param greater - for each item those that are greater than it
 * @returns the items to take, in ascending order
 */
export function minimumWeightVertexCover(
  weights: readonly number[],
  greater: readonly (readonly number[])[],
): number[] {
  const size = weights.length;
  const network = new Network(2 * size + 2);
  const [source, sink] = [2 * size, 2 * size + 1];
  weights.forEach((weight, item) => {
    network.connect(source, item, weight);
    network.connect(size + item, sink, weight);
    for (const other of greater[item]!) network.connect(item, size + other, Infinity);
  });
  const reached = network.saturate(source, sink);
  return weights.flatMap((_, item) => (!reached.has(item) || reached.has(size + item) ? [item] : []));
}

interface Edge {
  readonly to: number;
  /** What may still flow. */
  room: number;
  readonly back: number;
}

class Network {
  readonly #edges: Edge[][];

  constructor(nodes: number) {
    this.#edges = Array.from({ length: nodes }, () => []);
  }

  connect(from: number, to: number, room: number): void {
    this.#edges[from]!.push({ to, room, back: this.#edges[to]!.length });
    this.#edges[to]!.push({ to: from, room: 0, back: this.#edges[from]!.length - 1 });
  }

  /** Sends as much as can flow. @returns the nodes that the source still reaches: its side of a minimum cut */
  saturate(source: number, sink: number): Set<number> {
    for (;;) {
      const cameBy = this.#search(source);
      if (!cameBy.has(sink)) return new Set(cameBy.keys());
      const path: Edge[] = [];
      for (let node = sink; node !== source;) {
        const { edge, from } = cameBy.get(node)!;
        path.push(edge!);
        node = from;
      }
      const flow = Math.min(...path.map(({ room }) => room));
      for (const edge of path) {
        edge.room -= flow;
        this.#edges[edge.to]![edge.back]!.room += flow;
      }
    }
  }

  #search(source: number): Map<number, { from: number; edge?: Edge }> {
    const cameBy = new Map<number, { from: number; edge?: Edge }>([[source, { from: source }]]);
    // A map is iterated in the order of insertion, also over what is added meanwhile: a queue.
    for (const from of cameBy.keys())
      for (const edge of this.#edges[from]!)
        if (edge.room > 0 && !cameBy.has(edge.to)) cameBy.set(edge.to, { from, edge });
    return cameBy;
  }
}
