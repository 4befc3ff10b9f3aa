export interface WaitingLimits {
  /** So many that have waited long, and no more are let in. */
  readonly slow: number;
  /** However long they have waited. */
  readonly most: number;
}

export interface AllLimits {
  /** For one address, its search aside. */
  readonly address: WaitingLimits;
  /** For all addresses below one folder. */
  readonly folder: WaitingLimits;
  /** For all. */
  readonly origin: number;
}

/** From here on a wait is a long one. */
const LONG_MS = 2_000;

/** Requests that wait for an answer to begin, by when they came, the oldest first. */
type Waiters = Map<symbol, number>;

/**
 * Counts the requests that wait for an origin to begin its answer. An address that never answers fills its own share of
 * those that wait long, and many below one folder fill that folder's; the rest of the site goes on. A page that many
 * ask for at once and that answers is held up by nothing here.
 */
export class Waiting {
  readonly #limits: AllLimits;
  readonly #now: () => number;
  readonly #addresses = new Map<string, Waiters>();
  readonly #folders = new Map<string, Waiters>();
  #all = 0;

  constructor(limits: AllLimits, now: () => number = Date.now) {
    this.#limits = limits;
    this.#now = now;
  }

  /** @returns what ends the wait, to be called once or more; undefined where there is no place left */
  enter(target: string): (() => void) | undefined {
    const address = target.split('?', 1)[0]!;
    const folder = address.slice(0, address.indexOf('/', 1) + 1) || address;
    const now = this.#now();
    const { address: own, folder: shared, origin } = this.#limits;
    if (
      this.#all >= origin ||
      isFull(this.#addresses.get(address), own, now) ||
      isFull(this.#folders.get(folder), shared, now)
    )
      return undefined;
    this.#all++;
    const key = Symbol();
    add(this.#addresses, address, key, now);
    add(this.#folders, folder, key, now);
    let isOver = false;
    return () => {
      if (isOver) return;
      isOver = true;
      this.#all--;
      remove(this.#addresses, address, key);
      remove(this.#folders, folder, key);
    };
  }
}

function isFull(waiters: Waiters | undefined, { slow, most }: WaitingLimits, now: number): boolean {
  if (!waiters || waiters.size < slow) return false;
  if (waiters.size >= most) return true;
  let count = 0;
  for (const since of waiters.values()) {
    if (now - since < LONG_MS) return false;
    if (++count === slow) return true;
  }
  return false;
}

function add(all: Map<string, Waiters>, name: string, key: symbol, now: number): void {
  const waiters = all.get(name);
  if (waiters) waiters.set(key, now);
  else all.set(name, new Map([[key, now]]));
}

function remove(all: Map<string, Waiters>, name: string, key: symbol): void {
  const waiters = all.get(name)!;
  waiters.delete(key);
  if (waiters.size === 0) all.delete(name);
}
