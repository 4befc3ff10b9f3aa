import type { EntityManager } from '@mikro-orm/postgresql';
import { ENVIRONMENTS, type Environment, type ReleaseSummary } from '@pragmatica/contract';
import { difference } from '@pragmatica/core';
import { assertIfMatch, etag } from '../http/etag.js';
import type { HandlersOf } from '../http/context.js';
import { audit, changeSite, findSite, notifyGateways } from '../site/change-site.js';
import { point, publishDraft } from '../site/publish.js';
import { draftTag, lastChange } from '../site/draft-tag.js';
import { findRelease, resolveSet } from '../site/sets.js';
import type { SiteChecks } from '../site/site-checks.js';
import { loadDraft, toSnapshot } from '../storage/draft.js';
import {
  PointerEntity,
  ReleaseEntity,
  type Pointer,
  type Release,
  type Site,
} from '../storage/entities/index.js';

type Summarized = Omit<Release, 'snapshot'>;

export function releaseHandlers(
  checks: SiteChecks,
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
        { orderBy: { number: 'desc' }, exclude: ['snapshot'] },
      );
      return { data: { items: releases.map((release) => summary(release, pointers)) } };
    },

    async publish({ params, body }, { em, actor, ifMatch }) {
      await checks.prepare(em, params.site);
      return changeSite(em, params.site, async (transaction, site) => {
        const draft = await loadDraft(transaction, site);
        assertIfMatch(ifMatch, draftTag(site, draft), 'The draft', await lastChange(transaction, site));
        const snapshot = toSnapshot(site, draft);
        const { open } = await checks.weigh(transaction, site, snapshot);
        const errors = open.filter(({ severity }) => severity === 'error');
        const uncontained = await checks.readers.run('uncontained', { snapshot });
        const release = await publishDraft(transaction, site, snapshot, errors, {
          ...body,
          actor,
          uncontained,
        });
        const data = summary(release, await transaction.find(PointerEntity, { site }));
        return {
          data,
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
        snapshot: release.snapshot,
      };
      return { data, etag: etag(release.digest) };
    },

    async showEnvironment({ params }, { em }) {
      return environmentAnswer(em, await findSite(em, params.site), params.environment);
    },

    async restoreRelease({ params, body }, { em, actor, ifMatch }) {
      return changeSite(em, params.site, async (transaction, site) => {
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
      const [from, to] = [await resolveSet(em, site, query.from), await resolveSet(em, site, query.to)];
      return { data: { from: from.name, to: to.name, changes: difference(from.snapshot, to.snapshot) } };
    },
  };
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

function summary(release: Summarized, pointers: readonly Pointer[]): ReleaseSummary {
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
