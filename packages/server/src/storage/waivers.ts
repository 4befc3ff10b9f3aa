import type { Waiver } from '@pragmatica/core';
import { emOf } from './em.js';
import { WaiverEntity } from './entities/index.js';
import type { Site, WaiverRow } from './rows.js';
import type { Store } from './store.js';

export async function waiversOf(store: Store, site: Site): Promise<readonly WaiverRow[]> {
  return emOf(store).find(WaiverEntity, { site });
}

/** Keeps a waiver, in place of an older one of the same finding. @param title - of the finding */
export async function saveWaiver(store: Store, site: Site, waiver: Waiver, title: string): Promise<void> {
  const em = emOf(store);
  const old = await em.findOne(WaiverEntity, { site, finding: waiver.finding });
  const values = { ...waiver, title, createdAt: new Date() };
  if (old) Object.assign(old, values);
  else em.create(WaiverEntity, { site, ...values }, { persist: true });
}

/** @returns what was removed; undefined where nobody had accepted the finding */
export async function removeWaiver(
  store: Store,
  site: Site,
  finding: string,
): Promise<WaiverRow | undefined> {
  const em = emOf(store);
  const waiver = await em.findOne(WaiverEntity, { site, finding });
  if (waiver) em.remove(waiver);
  return waiver ?? undefined;
}
