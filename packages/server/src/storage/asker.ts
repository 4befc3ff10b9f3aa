import { AsyncLocalStorage } from 'node:async_hooks';

/** From where something is asked, beside who asks. */
export interface Asker {
  /** Name of the token that it is asked with; null where it is none. */
  readonly token: string | null;
  readonly address: string | null;
}

const NOBODY: Asker = { token: null, address: null };
const askers = new AsyncLocalStorage<Asker>();

/** Whatever is written into the trail meanwhile says that it came from there. */
export function askedBy<T>(asker: Asker, work: () => T): T {
  return askers.run(asker, work);
}

/** From where what is being done was asked; nothing where the service does it by itself. */
export function currentAsker(): Asker {
  return askers.getStore() ?? NOBODY;
}
