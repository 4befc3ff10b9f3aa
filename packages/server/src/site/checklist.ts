import type { EntityManager } from '@mikro-orm/postgresql';
import type { ChecklistItemResource } from '@pragmatica/contract';
import { checklist, type ChecklistItem } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { HostEntity, StepTickEntity, type Site } from '../storage/entities/index.js';
import { audit, findSite, withSiteLock } from './site-lock.js';
import type { Acting, SiteTools } from './use-case.js';

/** What has to be done at providers for a site. @throws ServiceError 404 */
export async function showChecklist(
  tools: SiteTools,
  em: EntityManager,
  key: string,
): Promise<ChecklistItemResource[]> {
  return (await itemsOf(tools, em, await findSite(em, key))).map(toResource);
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
  { em, actor }: Acting,
): Promise<ChecklistItemResource[]> {
  return withSiteLock(em, key, async (transaction, site) => {
    const item = (await itemsOf(tools, transaction, site)).find(
      (entry) => entry.recipe.key === recipe && entry.step.key === step && entry.host === host,
    );
    if (!item)
      throw host === ''
        ? new ServiceError('no-such-step', { step, recipe, site: site.key })
        : new ServiceError('no-such-step-of-host', { step, recipe, host, site: site.key });
    const where = { site, recipe, step, host };
    const ticked = await transaction.findOne(StepTickEntity, where);
    // Who did it first is who did it.
    if (done && !ticked) {
      transaction.create(StepTickEntity, { ...where, by: actor, at: new Date() }, { persist: true });
      audit(transaction, site, actor, 'step.tick', `Ticked off: ${item.title}.`);
    } else if (!done && ticked) {
      transaction.remove(ticked);
      audit(transaction, site, actor, 'step.tick', `Took back that this is done: ${item.title}.`);
    }
    await transaction.flush();
    return (await itemsOf(tools, transaction, site)).map(toResource);
  });
}

async function itemsOf({ checks, sets }: SiteTools, em: EntityManager, site: Site): Promise<ChecklistItem[]> {
  const { snapshot } = await sets.draft(em, site);
  const hosts = await em.find(HostEntity, { site }, { orderBy: { position: 'asc' } });
  return checklist(await checks.recipeUses(em, snapshot), hosts, await checks.ticksOf(em, site));
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
