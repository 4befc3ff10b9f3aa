import { randomUUID } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import type { LiveEvent } from '@pragmatica/contract';
import { ServiceError } from '../../errors.js';
import { announce, type LiveNote } from '../../storage/live.js';
import { appear, leave, presentAt, stay, type Place } from '../../storage/presence.js';
import type { Member, Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { MOST_WINDOWS, type Inbox, type LiveHub } from './live-hub.js';

/** So often whoever follows is told that the line stands, and counts as there for longer. */
const BEAT_MS = 10_000;

/** What happens at once, such as one publishing, is told at once. */
const GATHER_MS = 100;

export interface Follower {
  readonly member: Pick<Member, 'id' | 'login'>;
  /** Undefined for whoever is not to be seen, such as a program. */
  readonly at: Place | undefined;
  /** Aborted when they leave. */
  readonly signal: AbortSignal;
}

/** Tells what happens to a site and who is there, until whoever follows leaves. @throws ServiceError 429 */
export async function* followSite(
  hub: LiveHub,
  store: Store,
  site: Site,
  { member, at, signal }: Follower,
): AsyncGenerator<LiveEvent> {
  const inbox = hub.open(site.id, member.id);
  if (!inbox) throw new ServiceError('too-many-windows', { most: MOST_WINDOWS });
  const onLeave = (): void => inbox.close();
  signal.addEventListener('abort', onLeave);
  const id = randomUUID();
  const people = { what: 'people', by: member.login } as const;
  try {
    if (at) {
      await appear(store, site, { id, member, ...at });
      await announce(store, site, people);
    }
    yield* tellAll(inbox, store, site, { id, login: member.login, isSeen: at !== undefined });
  } finally {
    signal.removeEventListener('abort', onLeave);
    hub.drop(inbox);
    if (at) await goodbye(store, site, id, people);
  }
}

/** Where the database is away nobody hears it: who is silent for long is gone, too. Never throws. */
async function goodbye(store: Store, site: Site, id: string, note: LiveNote): Promise<void> {
  try {
    await leave(store, id);
    await announce(store, site, note);
  } catch {
    // Said above.
  }
}

async function* tellAll(
  inbox: Inbox,
  store: Store,
  site: Site,
  { id, login, isSeen }: { readonly id: string; readonly login: string; readonly isSeen: boolean },
): AsyncGenerator<LiveEvent> {
  let last = '';
  while (!inbox.isOver()) {
    const found = await presentAt(store, site, id);
    const people = found.map((one) => ({ ...one, isYou: one.login === login }));
    const now = JSON.stringify(people);
    if (now !== last) yield { type: 'people', people };
    last = now;
    const first = await inbox.take(BEAT_MS);
    if (first.size === 0) {
      if (inbox.isOver()) return;
      if (isSeen) await stay(store, id);
      yield { type: 'still' };
      continue;
    }
    await sleep(GATHER_MS);
    const news = new Map([...first, ...(await inbox.take(0))]);
    for (const [what, by] of news) if (what !== 'people') yield { type: 'changed', what, by: by || null };
  }
}
