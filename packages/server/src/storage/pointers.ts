import type { Environment } from '@pragmatica/contract';
import { emOf } from './em.js';
import { PointerEntity } from './entities/index.js';
import type { Pointer, Release, Site } from './rows.js';
import type { Store } from './store.js';

/** What the environments of a site serve. */
export async function pointersOf(store: Store, site: Site): Promise<readonly Pointer[]> {
  return emOf(store).find(
    PointerEntity,
    { site },
    { populate: ['release'], orderBy: { environment: 'asc' } },
  );
}

/** What one serves; undefined while it serves nothing. */
export async function pointerOf(
  store: Store,
  site: Site,
  environment: Environment,
): Promise<Pointer | undefined> {
  const pointer = await emOf(store).findOne(PointerEntity, { site, environment }, { populate: ['release'] });
  return pointer ?? undefined;
}

/** Points an environment at a release. @param by - the login of whoever does */
export async function pointTo(
  store: Store,
  site: Site,
  environment: Environment,
  release: Release,
  by: string,
): Promise<void> {
  const em = emOf(store);
  const pointer = await em.findOne(PointerEntity, { site, environment });
  const now = { release, changedBy: by, changedAt: new Date() };
  if (pointer) Object.assign(pointer, now);
  else em.create(PointerEntity, { site, environment, ...now, version: 1 }, { persist: true });
}
