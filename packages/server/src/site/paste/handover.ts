import type { Environment, HandoverResource, HandoverSheetResource } from '@pragmatica/contract';
import { newSecret, secretHash } from '../../auth/secrets.js';
import { ServiceError } from '../../errors.js';
import {
  handoverByHash,
  handoversOf,
  insertHandover,
  noteHandoverUse,
  removeHandover,
  type Handover,
} from '../../storage/handovers.js';
import type { Site } from '../../storage/rows.js';
import { siteById } from '../../storage/sites.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import { SITE_TEXTS } from '../../texts/site.js';
import { say } from '../../texts/say.js';
import { findSite, withSiteLock } from '../site-lock.js';
import type { Acting } from '../use-case.js';
import { showBlocks, tickBlock, type BlockTick, type PasteTools } from './blocks.js';

/** @throws ServiceError 404 */
export async function listHandovers(store: Store, key: string): Promise<HandoverResource[]> {
  return (await handoversOf(store, await findSite(store, key))).map(toResource);
}

/** Makes a link that works for so many days. Its secret is given out here and never again. @throws ServiceError 404 */
export async function makeHandover(
  key: string,
  { environment, days }: { readonly environment: Environment; readonly days: number },
  { store, actor }: Acting,
): Promise<HandoverResource & { readonly path: string }> {
  const secret = newSecret();
  return withSiteLock(store, key, async (transaction, site) => {
    const values = { hash: secretHash(secret), environment, by: actor, days };
    const made = await insertHandover(transaction, site, values);
    audit(transaction, site, actor, 'paste', () => say(SITE_TEXTS.handoverMade, { id: made.id, days }));
    await transaction.flush();
    // Behind the sign browsers send nothing: the secret is in no address that anybody logs.
    return { ...toResource(made), path: `/handover#${secret}` };
  });
}

/** @throws ServiceError 404 */
export async function endHandover(key: string, id: number, { store, actor }: Acting): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    if (!(await removeHandover(transaction, site, id))) throw new ServiceError('no-such-handover', { id });
    audit(transaction, site, actor, 'paste', () => say(SITE_TEXTS.handoverEnded, { id }));
    await transaction.flush();
  });
}

/** What whoever has a link is to paste. @throws ServiceError 404 for a link that is over */
export async function openHandover(
  tools: PasteTools,
  store: Store,
  secret: string,
): Promise<HandoverSheetResource> {
  const { handover, site } = await found(store, secret);
  const { environment } = handover;
  return sheet(site, handover, await showBlocks(tools, store, site.key, { environment, of: 'served' }));
}

/** @throws ServiceError 404 for a link that is over, 409 where the block is another one by now */
export async function tickHandover(
  tools: PasteTools,
  store: Store,
  secret: string,
  tick: Omit<BlockTick, 'environment'>,
): Promise<HandoverSheetResource> {
  const { handover, site } = await found(store, secret);
  const { environment, id, by } = handover;
  const actor = say(SITE_TEXTS.handoverActor, { id, by });
  const blocks = await tickBlock(tools, site.key, { ...tick, environment }, { store, actor });
  await noteHandoverUse(store, id);
  return sheet(site, handover, blocks);
}

async function found(store: Store, secret: string): Promise<{ handover: Handover; site: Site }> {
  const handover = await handoverByHash(store, secretHash(secret));
  const site = handover && (await siteById(store, handover.siteId));
  if (!site) throw new ServiceError('handover-over', {});
  return { handover, site };
}

function sheet(
  { name }: Site,
  { environment, until }: Handover,
  blocks: HandoverSheetResource['blocks'],
): HandoverSheetResource {
  return { site: name, environment, until: until.toISOString(), blocks };
}

function toResource({ id, environment, by, madeAt, until, usedAt }: Handover): HandoverResource {
  return {
    ...{ id, environment, by },
    madeAt: madeAt.toISOString(),
    until: until.toISOString(),
    usedAt: usedAt?.toISOString() ?? null,
  };
}
