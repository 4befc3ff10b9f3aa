import type { ApprovalRequest, Decision } from '@pragmatica/core';
import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

/** That a site’s releases need somebody else’s approval before they go live. */
export interface ApprovalRule {
  /** Releases from before it need none. */
  readonly since: Date;
  readonly by: string;
}

/** @returns undefined where they need none */
export async function approvalRule(store: Store, site: Pick<Site, 'id'>): Promise<ApprovalRule | undefined> {
  const [row] = await emOf(store).execute<{ since: string; by: string }[]>(
    'select since, set_by as "by" from approval_rule where site_id = ?',
    [site.id],
  );
  return row && { by: row.by, since: new Date(row.since) };
}

/** @param by - the login of whoever sets it; undefined takes the rule away */
export async function saveApprovalRule(
  store: Store,
  site: Pick<Site, 'id'>,
  by: string | undefined,
): Promise<void> {
  const em = emOf(store);
  if (by === undefined) await em.execute('delete from approval_rule where site_id = ?', [site.id]);
  else
    await em.execute(
      'insert into approval_rule (site_id, set_by) values (?, ?) on conflict (site_id) do nothing',
      [site.id, by],
    );
}

/** A request for approval as it is kept. */
export interface Approval extends ApprovalRequest {
  readonly id: number;
  readonly siteId: number;
  readonly message: string;
  readonly requestedAt: Date;
  readonly decidedBy: string | null;
  readonly decidedAt: Date | null;
  /** What was said with the decision. */
  readonly note: string;
}

const COLUMNS = `a.id, a.site_id as "siteId", a.digest, a.release, a.message, a.requested_by as "requestedBy",
  a.requested_at as "requestedAt", a.decision, a.decided_by as "decidedBy", a.decided_at as "decidedAt", a.note, a.published`;

interface Row extends Omit<Approval, 'requestedAt' | 'decidedAt'> {
  readonly requestedAt: string;
  readonly decidedAt: string | null;
}

function toApproval(row: Row): Approval {
  return {
    ...row,
    requestedAt: new Date(row.requestedAt),
    decidedAt: row.decidedAt === null ? null : new Date(row.decidedAt),
  };
}

/** Requests of a site, the newest first. @param before - only those with a lower id */
export async function approvalsOf(
  store: Store,
  site: Pick<Site, 'id'>,
  limit: number,
  before?: number,
): Promise<Approval[]> {
  const rows = await emOf(store).execute<Row[]>(
    `select ${COLUMNS} from approval a where a.site_id = ? ${before === undefined ? '' : 'and a.id < ?'}
     order by a.id desc limit ?`,
    [site.id, ...(before === undefined ? [] : [before]), limit],
  );
  return rows.map(toApproval);
}

/** Requests about one set, the newest first. */
export async function approvalsOfSet(
  store: Store,
  site: Pick<Site, 'id'>,
  digest: string,
): Promise<Approval[]> {
  const rows = await emOf(store).execute<Row[]>(
    `select ${COLUMNS} from approval a where a.site_id = ? and a.digest = ? order by a.id desc`,
    [site.id, digest],
  );
  return rows.map(toApproval);
}

export async function approvalById(
  store: Store,
  site: Pick<Site, 'id'>,
  id: number,
): Promise<Approval | undefined> {
  const [row] = await emOf(store).execute<Row[]>(
    `select ${COLUMNS} from approval a where a.site_id = ? and a.id = ?`,
    [site.id, id],
  );
  return row && toApproval(row);
}

export async function insertApproval(
  store: Store,
  site: Pick<Site, 'id'>,
  { digest, release, message, requestedBy }: Pick<Approval, 'digest' | 'release' | 'message' | 'requestedBy'>,
): Promise<Approval> {
  const [row] = await emOf(store).execute<Row[]>(
    `insert into approval as a (site_id, digest, release, message, requested_by)
     values (?, ?, ?, ?, ?) returning ${COLUMNS}`,
    [site.id, digest, release, message, requestedBy],
  );
  return toApproval(row!);
}

export async function saveDecision(
  store: Store,
  id: number,
  { decision, by, note }: { readonly decision: Decision; readonly by: string; readonly note: string },
): Promise<void> {
  await emOf(store).execute(
    'update approval set decision = ?, decided_by = ?, decided_at = now(), note = ? where id = ?',
    [decision, by, note, id],
  );
}

/** Says of approved requests about a set that it was published. */
export async function notePublished(
  store: Store,
  site: Pick<Site, 'id'>,
  digest: string,
  release: number,
): Promise<void> {
  await emOf(store).execute(
    `update approval set published = ?
     where site_id = ? and digest = ? and published is null and decision = 'approved'`,
    [release, site.id, digest],
  );
}

/** A link for somebody who only approves. Its secret is not among what is kept. */
export interface ApprovalLink {
  readonly approvalId: number;
  readonly siteId: number;
  /** Whom it was made for. */
  readonly name: string;
  readonly by: string;
  readonly until: Date;
}

export async function insertApprovalLink(
  store: Store,
  approval: number,
  { hash, name, by, days }: { hash: string; name: string; by: string; days: number },
): Promise<Date> {
  const [row] = await emOf(store).execute<{ until: string }[]>(
    `insert into approval_link (approval_id, secret_hash, name, made_by, until)
     values (?, ?, ?, ?, now() + make_interval(days => ?)) returning until`,
    [approval, hash, name, by, days],
  );
  return new Date(row!.until);
}

/** @returns undefined for a secret that no link has, or none that still works */
export async function approvalLinkByHash(store: Store, hash: string): Promise<ApprovalLink | undefined> {
  const [row] = await emOf(store).execute<(Omit<ApprovalLink, 'until'> & { until: string })[]>(
    `select l.approval_id as "approvalId", a.site_id as "siteId", l.name, l.made_by as "by", l.until
     from approval_link l join approval a on a.id = l.approval_id where l.secret_hash = ? and l.until > now()`,
    [hash],
  );
  return row && { ...row, until: new Date(row.until) };
}
