import type { StepTick } from '@pragmatica/core';
import { emOf } from './em.js';
import { StepTickEntity } from './entities/index.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

export type StepOfSite = Pick<StepTick, 'recipe' | 'step' | 'host'>;

/** What somebody has ticked off for a site, in the order in which it was. */
export async function ticksOf(store: Store, site: Site): Promise<StepTick[]> {
  const rows = await emOf(store).find(StepTickEntity, { site }, { orderBy: { id: 'asc' } });
  return rows.map(({ recipe, step, host, by, at }) => ({ recipe, step, host, by, at: at.toISOString() }));
}

/** Ticks a step off. @returns whether nobody had before: who did it first is who did it */
export async function addTick(store: Store, site: Site, step: StepOfSite, by: string): Promise<boolean> {
  const em = emOf(store);
  if (await em.findOne(StepTickEntity, { site, ...step })) return false;
  em.create(StepTickEntity, { site, ...step, by, at: new Date() }, { persist: true });
  return true;
}

/** Keeps ticks as they were somewhere else. */
export function insertTicks(store: Store, site: Site, ticks: readonly StepTick[]): void {
  const em = emOf(store);
  for (const { at, ...tick } of ticks)
    em.create(StepTickEntity, { site, ...tick, at: new Date(at) }, { persist: true });
}

/** Takes a tick back. @returns whether there was one */
export async function removeTick(store: Store, site: Site, step: StepOfSite): Promise<boolean> {
  const em = emOf(store);
  const tick = await em.findOne(StepTickEntity, { site, ...step });
  if (tick) em.remove(tick);
  return tick !== null;
}
