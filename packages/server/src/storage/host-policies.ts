import type { PolicyMode } from '@pragmatica/contract';
import type { OwnPolicy, PolicyNeed, PolicyReport } from '@pragmatica/core';
import { emOf } from './em.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

/** What somebody has decided on the content policy of a host. */
export interface HostPolicyRow {
  readonly mode: PolicyMode;
  readonly own: OwnPolicy;
  readonly changedBy: string;
  readonly changedAt: Date;
}

export async function hostPolicy(
  store: Store,
  site: Pick<Site, 'id'>,
  host: string,
): Promise<HostPolicyRow | undefined> {
  const [row] = await emOf(store).execute<(Omit<HostPolicyRow, 'changedAt'> & { changedAt: string })[]>(
    `select mode, own, changed_by as "changedBy", changed_at as "changedAt" from host_policy
     where site_id = ? and host = ?`,
    [site.id, host],
  );
  return row && { ...row, changedAt: new Date(row.changedAt) };
}

/** Hosts of a site whose pages' policies a gateway extends for good. */
export async function policedHosts(store: Store, site: Pick<Site, 'id'>): Promise<ReadonlySet<string>> {
  const rows = await emOf(store).execute<{ host: string }[]>(
    `select host from host_policy where site_id = ? and mode = 'enforce'`,
    [site.id],
  );
  return new Set(rows.map(({ host }) => host));
}

export async function saveHostPolicy(
  store: Store,
  site: Pick<Site, 'id'>,
  host: string,
  { mode, own, reportsTo, by }: { mode: PolicyMode; own: OwnPolicy; reportsTo: string; by: string },
): Promise<void> {
  await emOf(store).execute(
    `insert into host_policy (site_id, host, mode, own, reports_to, changed_by) values (?, ?, ?, ?::json, ?, ?)
     on conflict (site_id, host) do update set mode = excluded.mode, own = excluded.own, reports_to = excluded.reports_to,
       changed_by = excluded.changed_by, changed_at = now()`,
    [site.id, host, mode, JSON.stringify(own), reportsTo, by],
  );
}

/** A policy that is sent and does not know yet what the release needs that its environment serves. */
export interface StalePolicy {
  readonly siteId: number;
  readonly site: string;
  readonly host: string;
  readonly environment: 'live' | 'staging';
  readonly releaseId: number;
  /** Scheme and host of its pages. */
  readonly address: string;
  /** The newest survey of the host; null before there is one. */
  readonly surveyId: number | null;
}

/** @param site - of this site only */
export async function stalePolicies(store: Store, site?: Pick<Site, 'id'>): Promise<readonly StalePolicy[]> {
  return emOf(store).execute<StalePolicy[]>(
    `select h.site_id as "siteId", s.key as site, h.host, h.environment, p.release_id as "releaseId",
       coalesce(h.address, 'http://' || h.host) as address, v.id as "surveyId"
     from host_policy c join host h on h.site_id = c.site_id and h.host = c.host
     join site s on s.id = h.site_id join pointer p on p.site_id = h.site_id and p.environment = h.environment
     left join lateral (select max(u.id) as id from survey u where u.site_id = h.site_id and u.host = h.host
       and u.environment = h.environment and u.side = 'public' and u.state = 'done') v on true
     where c.mode <> 'off' and (c.needs_release is distinct from p.release_id or c.needs_survey is distinct from v.id)
       ${site ? 'and c.site_id = ?' : ''}`,
    site ? [site.id] : [],
  );
}

export async function saveNeeds(
  store: Store,
  { siteId, host, releaseId, surveyId }: StalePolicy,
  needs: Readonly<Record<string, readonly PolicyNeed[]>>,
): Promise<void> {
  await emOf(store).execute(
    `update host_policy set needs = ?::jsonb, needs_release = ?, needs_survey = ? where site_id = ? and host = ?`,
    [JSON.stringify(needs), releaseId, surveyId, siteId, host],
  );
}

/** What browsers have reported, alike reports together. */
export interface PolicyReportRow extends Omit<PolicyReport, 'host'> {
  readonly id: number;
  readonly count: number;
  readonly firstAt: Date;
  readonly lastAt: Date;
}

/** Those of a host, those that came most often first. */
export async function policyReports(
  store: Store,
  site: Pick<Site, 'id'>,
  host: string,
  limit: number,
): Promise<PolicyReportRow[]> {
  const rows = await emOf(store).execute<
    (Omit<PolicyReportRow, 'firstAt' | 'lastAt'> & { firstAt: string; lastAt: string })[]
  >(
    `select id, directive, blocked, source, sample, is_enforced as "isEnforced", path, count, first_at as "firstAt",
       last_at as "lastAt" from policy_report where site_id = ? and host = ? order by count desc, id limit ?`,
    [site.id, host, limit],
  );
  return rows.map((row) => ({ ...row, firstAt: new Date(row.firstAt), lastAt: new Date(row.lastAt) }));
}

export async function removePolicyReports(store: Store, site: Pick<Site, 'id'>, host: string): Promise<void> {
  await emOf(store).execute('delete from policy_report where site_id = ? and host = ?', [site.id, host]);
}
