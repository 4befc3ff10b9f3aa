import type { EntityManager } from '@mikro-orm/postgresql';
import type { ChecklistItemResource } from '@pragmatica/contract';
import { checklist, type ChecklistItem } from '@pragmatica/core';
import type { HandlersOf } from '../http/context.js';
import { ServiceError } from '../errors.js';
import { audit, withSiteLock, findSite } from '../site/site-lock.js';
import type { Sets } from '../site/sets.js';
import type { SiteChecks } from '../site/site-checks.js';
import { HostEntity, StepTickEntity, type Site } from '../storage/entities/index.js';

export function checklistHandlers(checks: SiteChecks, sets: Sets): HandlersOf<'showChecklist' | 'tickStep'> {
  const itemsOf = async (em: EntityManager, site: Site): Promise<ChecklistItem[]> => {
    const { snapshot } = await sets.draft(em, site);
    const hosts = await em.find(HostEntity, { site }, { orderBy: { position: 'asc' } });
    return checklist(await checks.recipeUses(em, snapshot), hosts, await checks.ticksOf(em, site));
  };
  return {
    async showChecklist({ params }, { em }) {
      const items = await itemsOf(em, await findSite(em, params.site));
      return { data: { items: items.map(toResource) } };
    },

    async tickStep({ params, body: { recipe, step, host, done } }, { em, actor }) {
      return withSiteLock(em, params.site, async (transaction, site) => {
        const item = (await itemsOf(transaction, site)).find(
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
        return { data: { items: (await itemsOf(transaction, site)).map(toResource) } };
      });
    },
  };
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
