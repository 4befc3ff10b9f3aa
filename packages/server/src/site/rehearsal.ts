import { snapshotDigest, type Snapshot } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import type { Site } from '../storage/rows.js';
import { watchOf } from '../storage/site-watches.js';
import type { Store } from '../storage/store.js';
import { lastRehearsal } from '../storage/visit-rounds.js';

/** @throws ServiceError 409 where the site asks for a rehearsal, and just this set has had none that went well */
export async function assertRehearsed(store: Store, site: Site, snapshot: Snapshot): Promise<void> {
  const { needsRehearsal } = await watchOf(store, site);
  if (!needsRehearsal) return;
  const round = await lastRehearsal(store, site, snapshotDigest(snapshot));
  if (!round) throw new ServiceError('rehearsal-missing', {});
  if (round.isWell !== true) throw new ServiceError('rehearsal-failed', { round: round.number });
}
