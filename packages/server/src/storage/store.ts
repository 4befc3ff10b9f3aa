/**
 * What the service keeps, as one request or one job sees it: a unit of work. The functions of this folder read and
 * change it; to the others it is this much.
 */
export interface Store {
  /** A unit of work of its own, beside this one. */
  fork(): Store;
  /** All that is done in it, or nothing. */
  transactional<T>(work: (store: Store) => Promise<T>): Promise<T>;
  isInTransaction(): boolean;
  /** Writes what was added and changed. */
  flush(): Promise<void>;
}
