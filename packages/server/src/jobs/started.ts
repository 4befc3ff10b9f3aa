import type { Store } from '../storage/store.js';
import type { Sets } from '../site/sets.js';
import type { Visiting } from '../pages/page-skeletons.js';

/** What a job that somebody has started may use. */
export interface StartedTools extends Visiting {
  readonly store: Store;
  readonly sets: Sets;
}

/**
 * Work that somebody starts and watches. It tells how far it is as it goes, and ends when nobody watches any more: the
 * generator is ended, and with it what it waits for. One more kind is one more file, and an endpoint with a `stream` of
 * its events.
 */
export type StartedJob<Input, Event> = (input: Input, tools: StartedTools) => AsyncGenerator<Event>;
