import type { EntityManager } from '@mikro-orm/postgresql';
import {
  countFindings,
  difference,
  isWaivable,
  newFindings,
  type Finding,
  type Waiver,
} from '@pragmatica/core';
import type { HandlersOf } from '../http/context.js';
import { ServiceError, errorAt } from '../errors.js';
import { codeChanges } from '../site/code-changes.js';
import { audit, withSiteLock, findSite } from '../site/site-lock.js';
import type { Sets } from '../site/sets.js';
import { today, type SiteChecks } from '../site/site-checks.js';
import { saveDraft } from '../storage/draft.js';
import { WaiverEntity } from '../storage/entities/index.js';

export function findingHandlers(
  checks: SiteChecks,
  sets: Sets,
): HandlersOf<
  | 'readCode'
  | 'listSkeletons'
  | 'listFindings'
  | 'fixFinding'
  | 'fixFindings'
  | 'waiveFinding'
  | 'removeWaiver'
> {
  return {
    async readCode({ body: { code, statement } }, { em }) {
      const { recipes, edition } = await checks.recipeCache.read(em);
      return { data: await checks.readers.run('read', { code, statement, recipes, edition }) };
    },

    async listSkeletons({ params }, { em }) {
      const { skeletons } = await checks.prepare(em, params.site);
      return { data: { items: [...skeletons] } };
    },

    async listFindings({ params, query }, { em }) {
      const site = await findSite(em, params.site);
      const { snapshot } = await sets.resolve(em, site, query.of);
      const { open, waived } = await checks.applyWaivers(em, site, snapshot);
      const before =
        query.against === undefined
          ? []
          : await checks.find(
              (await sets.resolve(em, site, query.against)).snapshot,
              await checks.knowledge(em, site),
            );
      const wanted = <T extends Finding>(findings: readonly T[]): T[] =>
        newFindings(findings, before).filter((finding) => isWanted(finding, query));
      return {
        data: {
          items: wanted(open),
          waived: wanted(waived),
          counts: { ...countFindings(open), waived: waived.length },
        },
      };
    },

    async fixFinding({ params, body }, context) {
      return fixDraft({ checks, sets }, params.site, { ...body, findings: [params.finding] }, context);
    },

    async fixFindings({ params, body }, context) {
      return fixDraft({ checks, sets }, params.site, body, context);
    },

    async waiveFinding({ params, body }, { em, actor }) {
      await checks.prepare(em, params.site);
      return withSiteLock(em, params.site, async (transaction, site) => {
        const { snapshot } = await sets.draft(transaction, site);
        const found = await checks.find(snapshot, await checks.knowledge(transaction, site));
        const finding = found.find(({ id }) => id === params.finding);
        if (!finding) throw new ServiceError('finding-gone', { finding: params.finding });
        if (!isWaivable(finding))
          throw new ServiceError('cannot-be-accepted', { title: finding.title, advice: finding.advice });
        if (body.until < today(site)) throw errorAt('/until', 'day-over', { day: body.until });
        const waiver = { fingerprint: finding.fingerprint, ...body, author: actor };
        const old = await transaction.findOne(WaiverEntity, { site, finding: finding.id });
        const values = { ...waiver, title: finding.title, createdAt: new Date() };
        if (old) Object.assign(old, values);
        else transaction.create(WaiverEntity, { site, finding: finding.id, ...values }, { persist: true });
        audit(
          transaction,
          site,
          actor,
          'waive',
          `Accepted until ${body.until}: ${finding.title}. Reason: ${body.reason}`,
        );
        await transaction.flush();
        return { data: { finding: finding.id, ...waiver } satisfies Waiver };
      });
    },

    async removeWaiver({ params }, { em, actor }) {
      await withSiteLock(em, params.site, async (transaction, site) => {
        const waiver = await transaction.findOne(WaiverEntity, { site, finding: params.finding });
        if (!waiver) throw new ServiceError('not-accepted', { finding: params.finding });
        transaction.remove(waiver);
        audit(transaction, site, actor, 'waive', `No longer accepted: ${waiver.title}.`);
        await transaction.flush();
      });
      return { data: undefined };
    },
  };
}

interface FixInput {
  readonly findings?: readonly string[] | undefined;
  readonly preview: boolean;
}

async function fixDraft(
  { checks, sets }: { readonly checks: SiteChecks; readonly sets: Sets },
  key: string,
  body: FixInput,
  { em, actor }: { readonly em: EntityManager; readonly actor: string },
) {
  const knowledge = await checks.prepare(em, key);
  return withSiteLock(em, key, async (transaction, site) => {
    const { snapshot: before } = await sets.draft(transaction, site);
    // What somebody has accepted is fixed only when it is asked for by name.
    const accepted = (await checks.applyWaivers(transaction, site, before)).waived.map(({ id }) => id);
    const { fixed, snapshot } = await checks.readers.run('fixAll', {
      snapshot: before,
      known: { ...knowledge, now: Date.now() },
      choice: { wanted: body.findings, accepted },
    });
    const left = (await checks.applyWaivers(transaction, site, snapshot)).open;
    if (body.findings) assertAllFixed(body.findings, fixed, await checks.find(before, knowledge));
    const changes = difference(before, snapshot).map((change) => change.message);
    if (!body.preview && fixed.length > 0) {
      await saveDraft(transaction, site, before, snapshot, actor);
      const what = fixed.length === 1 ? '1 finding' : `${fixed.length} findings`;
      audit(transaction, site, actor, 'fix', `Fixed ${what}. ${changes.join(' ')}`);
      await transaction.flush();
    }
    return { data: { fixed, changes, code: codeChanges(before, snapshot), left: [...left] } };
  });
}

/** @throws ServiceError for a finding that is not there, or that only a person can fix */
function assertAllFixed(
  wanted: readonly string[],
  fixed: readonly Finding[],
  found: readonly Finding[],
): void {
  wanted.forEach((id, index) => {
    if (fixed.some((finding) => finding.id === id)) return;
    const isThere = found.some((finding) => finding.id === id);
    throw errorAt(`/findings/${index}`, isThere ? 'not-fixable' : 'finding-gone', { finding: id });
  });
}

interface Wanted {
  readonly severity?: string | undefined;
  readonly check?: string | undefined;
  readonly snippet?: string | undefined;
}

function isWanted(finding: Finding, { severity, check, snippet }: Wanted): boolean {
  return (
    (severity === undefined || finding.severity === severity) &&
    (check === undefined || finding.check === check) &&
    (snippet === undefined || finding.subjects.some((subject) => subject.snippet === snippet))
  );
}
