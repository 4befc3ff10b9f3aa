import type { EntityManager } from '@mikro-orm/postgresql';
import { ENVIRONMENTS, type Environment, type ReleaseSummary } from '@pragmatica/contract';
import { difference, type Snapshot } from '@pragmatica/core';
import { assertIfMatch } from '../http/if-match.js';
import { etag, type LastChange } from '../site/entity-tag.js';
import { ServiceError } from '../errors.js';
import type { HandlersOf } from '../http/context.js';
import { audit, withSiteLock, findSite, notifyGateways } from '../site/site-lock.js';
import { point, publishDraft } from '../site/publish.js';
import { draftTag, lastChange } from '../site/draft-tag.js';
import { findRelease, type Sets } from '../site/sets.js';
import { servedNow, type SeenDraft, type SeenDrafts } from '../site/seen-drafts.js';
import type { SiteChecks } from '../site/site-checks.js';
import {
  PointerEntity,
  ReleaseEntity,
  type Pointer,
  type Release,
  type Site,
} from '../storage/entities/index.js';
import type { ReleaseHead } from '../storage/releases.js';

export function releaseHandlers(
  checks: SiteChecks,
  sets: Sets,
  seenDrafts: SeenDrafts,
): HandlersOf<
  'listReleases' | 'publish' | 'showRelease' | 'showEnvironment' | 'restoreRelease' | 'showDiff'
> {
  return {
    async listReleases({ params }, { em }) {
      const site = await findSite(em, params.site);
      const pointers = await em.find(PointerEntity, { site });
      const releases = await em.find(
        ReleaseEntity,
        { site },
        { orderBy: { number: 'desc' }, exclude: ['snippets'] },
      );
      return { data: { items: releases.map((release) => summary(release, pointers)) } };
    },

    async publish({ params, body }, { em, actor, ifMatch }) {
      await checks.prepare(em, params.site);
      return withSiteLock(em, params.site, async (transaction, site) => {
        const { snapshot: now } = await sets.draft(transaction, site);
        const tag = draftTag(now);
        const seen = seenDrafts.find(site, ifMatch);
        // Whoever published meanwhile must not be taken back in silence.
        const isPinned = seen !== undefined && seen.served === (await servedNow(transaction, site));
        if (!isPinned) assertSeen(ifMatch, tag, seen, now, await lastChange(transaction, site));
        const snapshot = isPinned && !ifMatch.includes(tag) ? seen.snapshot : now;
        const meanwhile = difference(snapshot, now).map(({ message }) => message);
        const { open } = await checks.applyWaivers(transaction, site, snapshot);
        const errors = open.filter(({ severity }) => severity === 'error');
        const uncontained = await checks.readers.run('uncontained', { snapshot });
        const release = await publishDraft(transaction, site, snapshot, errors, {
          ...body,
          actor,
          uncontained,
        });
        const data = summary(release, await transaction.find(PointerEntity, { site }));
        return {
          data: { ...data, meanwhile },
          etag: etag(release.digest),
          location: `/api/v1/sites/${site.key}/releases/${release.number}`,
        };
      });
    },

    async showRelease({ params }, { em }) {
      const site = await findSite(em, params.site);
      const release = await findRelease(em, site, params.release);
      const data = {
        ...summary(release, await em.find(PointerEntity, { site })),
        snapshot: await sets.release(em, release),
      };
      return { data, etag: etag(release.digest) };
    },

    async showEnvironment({ params }, { em }) {
      return environmentAnswer(em, await findSite(em, params.site), params.environment);
    },

    async restoreRelease({ params, body }, { em, actor, ifMatch }) {
      return withSiteLock(em, params.site, async (transaction, site) => {
        const pointer = await transaction.findOne(PointerEntity, { site, environment: params.environment });
        const last = pointer ? { by: pointer.changedBy, at: pointer.changedAt } : undefined;
        assertIfMatch(
          ifMatch,
          pointerTag(params.environment, pointer),
          `What ${params.environment} serves`,
          last,
        );
        const release = await findRelease(transaction, site, body.release);
        await point(transaction, site, params.environment, release, actor);
        audit(
          transaction,
          site,
          actor,
          'restore',
          `Put release ${release.number} back into ${params.environment}.`,
        );
        await transaction.flush();
        await notifyGateways(transaction, site);
        return environmentAnswer(transaction, site, params.environment);
      });
    },

    async showDiff({ params, query }, { em }) {
      const site = await findSite(em, params.site);
      const [from, to] = [await sets.resolve(em, site, query.from), await sets.resolve(em, site, query.to)];
      return { data: { from: from.name, to: to.name, changes: difference(from.snapshot, to.snapshot) } };
    },
  };
}

/** @throws ServiceError 412, which says in words what is another by now */
function assertSeen(
  ifMatch: string,
  tag: string,
  seen: SeenDraft | undefined,
  now: Snapshot,
  last: LastChange | undefined,
): void {
  try {
    assertIfMatch(ifMatch, tag, 'The draft', last);
  } catch (error) {
    if (!seen || !(error instanceof ServiceError)) throw error;
    const changes = difference(seen.snapshot, now).map(({ message }) => message);
    const params = { count: changes.length, changes: changes.join(' ') };
    throw new ServiceError('published-since', params, error.details, error);
  }
}

async function environmentAnswer(em: EntityManager, site: Site, environment: Environment) {
  const pointer = await em.findOne(PointerEntity, { site, environment }, { populate: ['release'] });
  return {
    data: {
      environment,
      release: pointer?.release.number ?? null,
      changedBy: pointer?.changedBy ?? null,
      changedAt: pointer?.changedAt.toISOString() ?? null,
    },
    etag: pointerTag(environment, pointer),
  };
}

function pointerTag(environment: Environment, pointer: Pointer | null): string {
  return etag(`${environment}-${pointer?.version ?? 0}`);
}

function summary(
  release: ReleaseHead & Pick<Release, 'id' | 'number' | 'createdAt'>,
  pointers: readonly Pointer[],
): ReleaseSummary {
  const { number, message, author, createdAt, digest, snippetsOn, forced } = release;
  return {
    number,
    message,
    author,
    createdAt: createdAt.toISOString(),
    digest,
    environments: ENVIRONMENTS.filter((environment) =>
      pointers.some((pointer) => pointer.environment === environment && pointer.release.id === release.id),
    ),
    snippets: snippetsOn,
    forced: forced ?? null,
  };
}
