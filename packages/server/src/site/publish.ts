import type { EntityManager } from '@mikro-orm/postgresql';
import type { Environment } from '@pragmatica/contract';
import { listWords, snapshotDigest, uncontainedParts, type Snapshot } from '@pragmatica/core';
import { ProblemError } from '../http/problems.js';
import { PointerEntity, ReleaseEntity, type Release, type Site } from '../storage/entities/index.js';
import { audit, notifyGateways } from './change-site.js';

/**
 * Makes a release of a draft and points environments at it. Called inside the transaction that locked the site: either
 * all of it happens or nothing.
 *
 * @throws ProblemError when the draft holds a part that is not contained, or when all environments serve just this set
 */
export async function publishDraft(
  em: EntityManager,
  site: Site,
  snapshot: Snapshot,
  input: { readonly message: string; readonly environments: readonly Environment[]; readonly actor: string },
): Promise<Release> {
  assertContained(snapshot);
  const digest = snapshotDigest(snapshot);
  const pointers = await em.find(PointerEntity, { site }, { populate: ['release'] });
  const served = input.environments.map(
    (environment) => pointers.find((pointer) => pointer.environment === environment)?.release,
  );
  if (served.every((release) => release?.digest === digest)) {
    throw new ProblemError(
      'nothing-to-publish',
      `The draft is what ${listWords(input.environments)} already ${input.environments.length > 1 ? 'serve' : 'serves'} (release ${served[0]!.number}).`,
    );
  }
  const last = await em.findOne(ReleaseEntity, { site }, { orderBy: { number: 'desc' } });
  const release = em.create(
    ReleaseEntity,
    {
      site,
      number: (last?.number ?? 0) + 1,
      message: input.message,
      author: input.actor,
      createdAt: new Date(),
      snapshot,
      digest,
      snippetsOn: snapshot.snippets.filter((snippet) => snippet.state === 'on').length,
    },
    { persist: true },
  );
  for (const environment of input.environments) await point(em, site, environment, release, input.actor);
  audit(
    em,
    site,
    input.actor,
    'publish',
    `Published release ${release.number} to ${listWords(input.environments)}: ${input.message}`,
  );
  await em.flush();
  await notifyGateways(em, site);
  return release;
}

/** Points an environment at a release, inside the transaction that locked the site. */
export async function point(
  em: EntityManager,
  site: Site,
  environment: Environment,
  release: Release,
  actor: string,
): Promise<void> {
  const pointer = await em.findOne(PointerEntity, { site, environment });
  const now = { release, changedBy: actor, changedAt: new Date() };
  if (pointer) Object.assign(pointer, now);
  else em.create(PointerEntity, { site, environment, ...now, version: 1 }, { persist: true });
}

function assertContained(snapshot: Snapshot): void {
  const parts = uncontainedParts(snapshot);
  if (parts.length === 0) return;
  const names = listWords([...new Set(parts.map((part) => `“${part.name}”`))]);
  throw new ProblemError(
    'not-contained',
    `Nothing was published. The code of ${names} would change the page around it. ${parts[0]!.message}`,
    {
      errors: parts.map((part) => ({
        pointer: `/snippets/${snapshot.snippets.findIndex((snippet) => snippet.key === part.snippet)}/parts/${part.index}/code`,
        detail: `“${part.name}”: ${part.message}`,
      })),
    },
  );
}
