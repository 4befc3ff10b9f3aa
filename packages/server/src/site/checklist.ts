import type { Store } from '../storage/store.js';
import type { ChecklistItemResource } from '@pragmatica/contract';
import { checklist, type ChecklistItem } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { hostsOf } from '../storage/hosts.js';
import type { Site } from '../storage/rows.js';
import { addTick, removeTick, ticksOf } from '../storage/ticks.js';
import { audit } from '../storage/trail.js';
import { findSite, withSiteLock } from './site-lock.js';
import type { Acting, SiteTools } from './use-case.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

/** What has to be done at providers for a site. @throws ServiceError 404 */
export async function showChecklist(
  tools: SiteTools,
  store: Store,
  key: string,
): Promise<ChecklistItemResource[]> {
  return (await itemsOf(tools, store, await findSite(store, key))).map(toResource);
}

export interface Tick {
  readonly recipe: string;
  readonly step: string;
  /** Empty for a step of the whole site. */
  readonly host: string;
  readonly done: boolean;
}

/** Ticks a step off, or takes that back. @throws ServiceError 404 */
export async function tickStep(
  tools: SiteTools,
  key: string,
  { recipe, step, host, done }: Tick,
  { store, actor }: Acting,
): Promise<ChecklistItemResource[]> {
  return withSiteLock(store, key, async (transaction, site) => {
    const item = (await itemsOf(tools, transaction, site)).find(
      (entry) => entry.recipe.key === recipe && entry.step.key === step && entry.host === host,
    );
    if (!item)
      throw host === ''
        ? new ServiceError('no-such-step', { step, recipe, site: site.key })
        : new ServiceError('no-such-step-of-host', { step, recipe, host, site: site.key });
    const which = { recipe, step, host };
    if (done) {
      if (await addTick(transaction, site, which, actor))
        audit(transaction, site, actor, 'step.tick', () =>
          say(SITE_TEXTS.tickedOffTitle, { title: item.title }),
        );
    } else if (await removeTick(transaction, site, which))
      audit(transaction, site, actor, 'step.tick', () => say(SITE_TEXTS.tookBackDone, { title: item.title }));
    await transaction.flush();
    return (await itemsOf(tools, transaction, site)).map(toResource);
  });
}

async function itemsOf({ checks, sets }: SiteTools, store: Store, site: Site): Promise<ChecklistItem[]> {
  const { snapshot } = await sets.draft(store, site);
  const hosts = await hostsOf(store, site);
  return checklist(await checks.recipeUses(store, snapshot), hosts, await ticksOf(store, site));
}

function toResource({
  recipe,
  step,
  host,
  title,
  open,
  snippets,
  tick,
}: ChecklistItem): ChecklistItemResource {
  return {
    recipe: recipe.key,
    recipeName: recipe.name,
    step: step.key,
    host,
    title,
    help: step.help ?? '',
    open,
    snippets: snippets.map(({ key, name }) => ({ key, name })),
    tick: tick ? { by: tick.by, at: tick.at } : null,
  };
}
