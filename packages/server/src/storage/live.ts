import { emOf } from './em.js';
import { Listener, type Hearing } from './listener.js';
import type { Run } from './run.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

const CHANNEL = 'pragmatica_live';

/** What is said of a site to whoever looks at it just now. */
export interface LiveNote {
  /** Something of the site itself, what was said of it, or who is there. */
  readonly what: 'site' | 'comments' | 'people';
  /** Login of who did it. */
  readonly by: string;
}

/** A note, and the id of the site that it is about. */
export type SiteNote = LiveNote & { readonly site: number };

/** Says something to whoever looks at a site, once the transaction commits. */
export async function announce(store: Store, { id }: Pick<Site, 'id'>, note: LiveNote): Promise<void> {
  await emOf(store).execute('select pg_notify(?, ?)', [CHANNEL, JSON.stringify({ site: id, ...note })]);
}

/** The same by whoever runs statements. */
export async function announceBy(run: Run, note: SiteNote): Promise<void> {
  await run('select pg_notify(?, ?)', [CHANNEL, JSON.stringify(note)]);
}

/** Hears what is said of sites, in whichever process it happens. */
export function liveNotes(
  url: string,
  onNote: (note: SiteNote) => void,
  { onAgain }: Required<Pick<Hearing, 'onAgain'>>,
): Listener {
  // Only this file writes to the channel.
  const onCall = (text: string): void => onNote(JSON.parse(text) as SiteNote);
  return new Listener(url, { channel: CHANNEL, name: 'pragmatica-live', onCall, onAgain });
}
