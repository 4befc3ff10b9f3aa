import { createHash } from 'node:crypto';
import type { EntityManager } from '@mikro-orm/postgresql';
import { canonicalJson, freezeSet, thawSet, type FrozenSet, type Snapshot } from '@pragmatica/core';
import { ReleaseEntity } from './entities/index.js';
import type { Release, Site } from './rows.js';
import { emOf } from './em.js';
import type { Store } from './store.js';

type Body = FrozenSet['header'] | FrozenSet['snippets'][number];

/** What a release says of itself. */
export type ReleaseHead = Pick<Release, 'message' | 'author' | 'digest' | 'snippetsOn' | 'forced'>;

/** Adds the next release of a site to the unit of work. What other releases hold already is not stored again. */
export async function addRelease(
  store: Store,
  site: Site,
  { createdAt = new Date(), ...head }: ReleaseHead & { readonly createdAt?: Date },
  snapshot: Snapshot,
): Promise<Release> {
  const em = emOf(store);
  const { header, snippets } = freezeSet(snapshot);
  const ids = await keepContents(em, [
    { key: null, body: header },
    ...snippets.map((snippet) => ({ key: snippet.key, body: snippet })),
  ]);
  const last = await em.findOne(ReleaseEntity, { site }, { orderBy: { number: 'desc' }, fields: ['number'] });
  return em.create(
    ReleaseEntity,
    {
      ...head,
      site,
      number: (last?.number ?? 0) + 1,
      createdAt,
      header: ids[0]!,
      snippets: ids.slice(1),
    },
    { persist: true },
  );
}

/** A release of a site by its number. */
export async function releaseByNumber(
  store: Store,
  site: Site,
  number: number,
): Promise<Release | undefined> {
  return (await emOf(store).findOne(ReleaseEntity, { site, number })) ?? undefined;
}

export async function releaseById(store: Store, id: number): Promise<Release | undefined> {
  return (await emOf(store).findOne(ReleaseEntity, { id })) ?? undefined;
}

/** Releases of a site, the newest first; what they hold is not read. @param before - only those with a lower number */
export async function releasesOf(
  store: Store,
  site: Site,
  limit: number,
  before?: number,
): Promise<readonly (ReleaseHead & Pick<Release, 'id' | 'number' | 'createdAt'>)[]> {
  const where = before === undefined ? { site } : { site, number: { $lt: before } };
  return emOf(store).find(ReleaseEntity, where, {
    orderBy: { number: 'desc' },
    exclude: ['snippets'],
    limit,
  });
}

/** All releases of a site, the oldest first, whole. */
export async function allReleases(store: Store, site: Site): Promise<readonly Release[]> {
  return emOf(store).find(ReleaseEntity, { site }, { orderBy: { number: 'asc' }, populate: ['header'] });
}

/** The set that a release holds, byte for byte. One query. */
export async function releaseSnapshot(
  store: Store,
  { header, snippets }: Pick<Release, 'header' | 'snippets'>,
): Promise<Snapshot> {
  const em = emOf(store);
  const rows = await em.execute<{ id: number; body: Body }[]>(
    'select id, body from release_content where id = any(?::int[])',
    [`{${[header.id, ...snippets].join()}}`],
  );
  const bodies = new Map(rows.map(({ id, body }) => [id, body]));
  return thawSet({
    header: bodies.get(header.id) as FrozenSet['header'],
    snippets: snippets.map((id) => bodies.get(id) as FrozenSet['snippets'][number]),
  });
}

/** @returns the ids of contents, in their order */
async function keepContents(
  em: EntityManager,
  contents: readonly { readonly key: string | null; readonly body: Body }[],
): Promise<number[]> {
  const digests = contents.map(({ body }) => createHash('sha256').update(canonicalJson(body)).digest('hex'));
  const known = await idsOf(em, digests);
  const missing = new Map(
    contents.flatMap((content, index) => {
      const digest = digests[index]!;
      return known.has(digest) ? [] : [[digest, { digest, ...content }] as const];
    }),
  );
  if (missing.size > 0) {
    await em.execute(
      `insert into release_content (digest, "key", body)
         select digest, "key", body
         from jsonb_to_recordset(?::jsonb) as c(digest char(64), "key" varchar(255), body jsonb)
       on conflict (digest) do nothing`,
      [JSON.stringify([...missing.values()])],
    );
    // Somebody else may have added one of them at the same time.
    for (const [digest, id] of await idsOf(em, [...missing.keys()])) known.set(digest, id);
  }
  return digests.map((digest) => known.get(digest)!);
}

async function idsOf(em: EntityManager, digests: readonly string[]): Promise<Map<string, number>> {
  const rows = await em.execute<{ id: number; digest: string }[]>(
    'select id, digest from release_content where digest = any(?::char(64)[])',
    [`{${digests.join()}}`],
  );
  return new Map(rows.map(({ digest, id }) => [digest, id]));
}
