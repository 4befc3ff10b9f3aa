export interface WaitingLimits {
  /** For one address, its search aside. */
  readonly address: number;
  /** For all addresses below one folder. */
  readonly folder: number;
  /** For all. */
  readonly origin: number;
}

/**
 * Counts the requests that wait for an origin to begin its answer. An address that never answers fills its own share,
 * and many below one folder fill that folder's; the rest of the site goes on.
 */
export class Waiting {
  readonly #limits: WaitingLimits;
  readonly #addresses = new Map<string, number>();
  readonly #folders = new Map<string, number>();
  #all = 0;

  constructor(limits: WaitingLimits) {
    this.#limits = limits;
  }

  /** @returns what ends the wait, to be called once or more; undefined where there is no place left */
  enter(target: string): (() => void) | undefined {
    const address = target.split('?', 1)[0]!;
    const folder = address.slice(0, address.indexOf('/', 1) + 1) || address;
    const { address: own, folder: shared, origin } = this.#limits;
    if (
      this.#all >= origin ||
      (this.#addresses.get(address) ?? 0) >= own ||
      (this.#folders.get(folder) ?? 0) >= shared
    )
      return undefined;
    this.#all++;
    add(this.#addresses, address, 1);
    add(this.#folders, folder, 1);
    let isOver = false;
    return () => {
      if (isOver) return;
      isOver = true;
      this.#all--;
      add(this.#addresses, address, -1);
      add(this.#folders, folder, -1);
    };
  }
}

function add(counts: Map<string, number>, key: string, more: number): void {
  const count = (counts.get(key) ?? 0) + more;
  if (count === 0) counts.delete(key);
  else counts.set(key, count);
}
