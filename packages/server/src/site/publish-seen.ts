import type { Environment } from '@pragmatica/contract';
import { difference, snapshotDigest, type Act, type Snapshot } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { pointersOf } from '../storage/pointers.js';
import { assertApproved, noteLive } from './approvals/rule.js';
import type { Release } from '../storage/rows.js';
import { servedBy, visitAfterPublishing } from './watch/after-publishing.js';
import { tellAct, type Home } from './watch/tell-act.js';
import { draftTag, lastChange } from './draft-tag.js';
import { etag, type LastChange } from './entity-tag.js';
import { assertIfMatch } from './if-match.js';
import { publishDraft } from './publish.js';
import { releaseSummary } from './release-summary.js';
import { servedNow, type SeenDraft, type SeenDrafts } from './seen-drafts.js';
import { assertRehearsed } from './rehearsal.js';
import { withSiteLock } from './site-lock.js';
import type { Acting, SiteTools } from './use-case.js';
import { SITE_TEXTS } from '../texts/site.js';

interface PublishTools extends SiteTools {
  readonly seenDrafts: SeenDrafts;
  readonly home: Home;
}

export interface PublishRequest {
  readonly message: string;
  readonly environments: readonly Environment[];
  /** Why to publish in spite of errors. */
  readonly force?: string | undefined;
  /** The draft that whoever publishes has seen. */
  readonly ifMatch: string;
}

/**
 * Publishes the draft that somebody saw, whatever others have changed in it since, as a new release.
 *
 * @returns what was published, and the ids of rounds of visits that look at it
 *
 * @throws ServiceError 404, 409, 412, 422
 */
export async function publishSeen(
  { checks, sets, seenDrafts, home }: PublishTools,
  key: string,
  { ifMatch, ...request }: PublishRequest,
  { store, actor }: Acting,
) {
  await checks.prepare(store, key);
  return withSiteLock(store, key, async (transaction, site) => {
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
    await assertRehearsed(transaction, site, snapshot);
    const goesLive = request.environments.includes('live');
    if (goesLive) await assertApproved(transaction, site, snapshotDigest(snapshot));
    const uncontained = await checks.readers.run('uncontained', { snapshot });
    const input = { ...request, actor, uncontained };
    const former = await servedBy(transaction, site);
    const release = await publishDraft(transaction, site, snapshot, errors, input);
    if (goesLive) await noteLive(transaction, site, release);
    await tellAct(transaction, site, publishedAct(release, request.environments), {
      ...{ home, at: '/releases', more: { digest: release.digest } },
    });
    const summary = releaseSummary(release, await pointersOf(transaction, site));
    const rounds = await visitAfterPublishing(transaction, site, request.environments, former, actor);
    return { published: { data: { ...summary, meanwhile }, etag: etag(release.digest) }, rounds };
  });
}

function publishedAct(
  { number, author, message, forced }: Release,
  environments: readonly Environment[],
): Act {
  const titles = forced?.findings.map(({ title }) => title) ?? [];
  return {
    ...{ kind: 'published', by: author, release: number, environments, message },
    forced: forced ? { reason: forced.reason, titles } : null,
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
    assertIfMatch(ifMatch, tag, SITE_TEXTS.draft, last);
  } catch (error) {
    if (!seen || !(error instanceof ServiceError)) throw error;
    const changes = difference(seen.snapshot, now).map(({ message }) => message);
    const params = { count: changes.length, changes: changes.join(' ') };
    throw new ServiceError('published-since', params, error.details, error);
  }
}
