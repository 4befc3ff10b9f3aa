import type { PolicyMode, PolicyOutput, PolicyResource } from '@pragmatica/contract';
import {
  blameFor,
  deliveryOf,
  plainChanges,
  sourceToAllow,
  type OwnPolicy,
  type PolicyOverview,
  type Suspect,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import {
  hostPolicy,
  policyReports,
  removePolicyReports,
  saveHostPolicy,
  saveNeeds,
  stalePolicies,
  type PolicyReportRow,
} from '../storage/host-policies.js';
import type { Readers } from '../reading/readers.js';
import { hostsOf } from '../storage/hosts.js';
import { filesOf } from '../storage/survey-files.js';
import { toFileVersion } from '../survey/read-files.js';
import { releaseById, releaseSnapshot } from '../storage/releases.js';
import type { Host, Site } from '../storage/rows.js';
import type { Store } from '../storage/store.js';
import { audit, notifyGateways } from '../storage/trail.js';
import { say } from '../texts/say.js';
import { POLICY_TEXTS } from '../texts/policy.js';
import { lineAddress } from './line-address.js';
import { emptySnapshot } from './sets.js';
import { findSite, withSiteLock } from './site-lock.js';
import type { Acting, SiteTools } from './use-case.js';

const REPORTS_SHOWN = 200;

/** Where browsers reach the gateway, for what is no page. */
export interface PolicyAddresses {
  readonly lineBase: string;
  readonly reportsTo: string;
}

/** Which policies a host's pages have and need, and what browsers report. @throws ServiceError 404 */
export async function showPolicy(
  tools: SiteTools,
  store: Store,
  key: string,
  hostname: string,
  addresses: PolicyAddresses,
): Promise<PolicyResource> {
  const site = await findSite(store, key);
  const host = await findHost(store, site, hostname);
  const row = await hostPolicy(store, site, hostname);
  const { overview, survey, release, canSend } = await overviewOf(
    tools,
    store,
    site,
    host,
    row?.own,
    addresses,
  );
  const own = row?.own ?? plainOwn(overview.proposed);
  const reports = await policyReports(store, site, hostname, REPORTS_SHOWN);
  return {
    host: hostname,
    environment: host.environment,
    delivery: host.delivery,
    canSend,
    mode: row?.mode ?? 'off',
    changed: row ? { by: row.changedBy, at: row.changedAt.toISOString() } : null,
    release,
    survey,
    reportsTo: addresses.reportsTo,
    own: toResource(own),
    isProposed: row === undefined,
    reasons: [...overview.proposed.reasons],
    needs: overview.needs.map((need) => ({ ...need, snippets: [...need.snippets] })),
    present: overview.present.map((one) => ({
      ...one,
      added: [...one.added],
      stopped: [...one.stopped],
      needNonce: [...one.needNonce],
    })),
    kinds: overview.kinds.map((kind) => ({ ...kind, snippets: [...kind.snippets] })),
    reports: reports.map((report) => reportResource(report, overview.suspects)),
  };
}

/** Decides on the policy of a host; gateways send it at once. @throws ServiceError 404, 409 for a host of another way */
export async function setPolicy(
  tools: SiteTools,
  key: string,
  hostname: string,
  { mode, own, fresh, untried }: PolicyOutput,
  addresses: PolicyAddresses,
  acting: Acting,
): Promise<PolicyResource> {
  const { store, actor } = acting;
  const site = await findSite(store, key);
  const host = await findHost(store, site, hostname);
  if (mode !== 'off' && host.delivery !== 'gateway')
    throw new ServiceError('policy-not-sent', { host: hostname, way: deliveryOf(host.delivery).name });
  const row = await hostPolicy(store, site, hostname);
  if (mode === 'enforce' && (row?.mode ?? 'off') === 'off' && !untried)
    throw new ServiceError('policy-untried', { host: hostname });
  const decided =
    own ?? (fresh ? undefined : row?.own) ?? (await proposal(tools, store, site, host, row?.own, addresses));
  await withSiteLock(store, key, async (transaction, locked) => {
    await saveHostPolicy(transaction, locked, hostname, {
      mode,
      own: decided,
      reportsTo: addresses.reportsTo,
      by: actor,
    });
    const before = { [hostname]: { mode: row?.mode ?? 'off' } };
    const changes = plainChanges('policy', before, { [hostname]: { mode } });
    audit(transaction, locked, actor, 'host.policy', () => modeWords(mode, hostname), changes);
    await transaction.flush();
  });
  await refreshPolicies(store, tools.checks.readers, site);
  await notifyGateways(store, site);
  return showPolicy(tools, store, key, hostname, addresses);
}

/** What the newest survey proposes. @throws ServiceError 409 where there is none */
async function proposal(
  tools: SiteTools,
  store: Store,
  site: Site,
  host: Host,
  before: OwnPolicy | undefined,
  addresses: PolicyAddresses,
): Promise<OwnPolicy> {
  const { overview, survey } = await overviewOf(tools, store, site, host, undefined, addresses);
  if (!survey) throw new ServiceError('policy-unsurveyed', { host: host.host });
  return { ...plainOwn(overview.proposed), allowed: before?.allowed ?? [] };
}

/** @throws ServiceError 404 */
export async function clearReports(key: string, hostname: string, { store, actor }: Acting): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    await findHost(transaction, site, hostname);
    await removePolicyReports(transaction, site, hostname);
    audit(transaction, site, actor, 'host.policy', () => say(POLICY_TEXTS.cleared, { host: hostname }));
    await transaction.flush();
  });
}

/**
 * Works out what the parts of releases need of policies that are sent with them. Until that is done gateways send no policy of
 * ours: a page goes out as the site sends it, rather than with one that stops something.
 *
 * @param site - only of this one
 */
export async function refreshPolicies(
  store: Store,
  readers: Readers,
  site?: Pick<Site, 'id'>,
): Promise<number> {
  const stale = await stalePolicies(store, site);
  for (const policy of stale) {
    const release = await releaseById(store, policy.releaseId);
    if (!release) continue;
    const snapshot = await releaseSnapshot(store, release);
    const files = {
      base: new URL(policy.address).origin,
      files: policy.surveyId === null ? [] : (await filesOf(store, policy.surveyId)).map(toFileVersion),
    };
    const needs = await readers.run('policyNeeds', { snapshot, environment: policy.environment, files });
    await saveNeeds(store, policy, needs);
    await notifyGateways(store, { key: policy.site });
  }
  return stale.length;
}

async function findHost(store: Store, site: Site, hostname: string): Promise<Host> {
  const hosts = await hostsOf(store, site);
  const host = hosts.find((one) => one.host === hostname);
  if (!host) {
    const known = hosts.map((one) => one.host).join(', ');
    throw new ServiceError('no-such-host', { site: site.key, host: hostname, known });
  }
  return host;
}

async function overviewOf(
  { checks, sets }: SiteTools,
  store: Store,
  site: Site,
  host: Host,
  own: OwnPolicy | undefined,
  { lineBase }: PolicyAddresses,
): Promise<{
  overview: PolicyOverview;
  survey: PolicyResource['survey'];
  release: number | null;
  canSend: boolean;
}> {
  const served = await sets.served(store, site, host.environment);
  const seen = await checks.surveyed(store, site, host);
  const canSend = host.delivery === 'gateway';
  const { isLine } = deliveryOf(host.delivery);
  const overview = await checks.policyOverview(
    {
      snapshot: served?.snapshot ?? emptySnapshot(site),
      environment: host.environment,
      groups: seen?.known.groups ?? [],
      sightings: seen?.known.seen ?? [],
      policies: seen?.known.policies ?? [],
      files: seen?.known.files ?? { base: 'http://localhost', files: [] },
      address: host.address ?? `http://${host.host}`,
      own,
      canMark: canSend,
      lineAddress: isLine ? lineAddress(lineBase, site.key, host.environment) : undefined,
    },
    seen?.survey.id ?? 0,
  );
  const survey = seen ? { number: seen.survey.number, at: seen.survey.endedAt?.toISOString() ?? null } : null;
  return { overview, survey, release: served?.number ?? null, canSend };
}

function plainOwn({ directives, isStrict, allowed }: OwnPolicy): OwnPolicy {
  return { directives, isStrict, allowed };
}

function toResource({ directives, isStrict, allowed }: OwnPolicy): PolicyResource['own'] {
  return {
    isStrict,
    allowed: [...allowed],
    directives: Object.fromEntries(Object.entries(directives).map(([name, sources]) => [name, [...sources]])),
  };
}

function modeWords(mode: PolicyMode, host: string): string {
  return say(POLICY_TEXTS[mode], { host });
}

function reportResource(
  { firstAt, lastAt, ...report }: PolicyReportRow,
  suspects: readonly Suspect[],
): PolicyResource['reports'][number] {
  const blame = blameFor(report, suspects);
  const allow = sourceToAllow(report) ?? null;
  const params = {
    blocked: report.blocked,
    directive: report.directive,
    sample: report.sample,
    source: report.source,
    name: blame?.name ?? '',
    by: blame?.by ?? 'page',
    enforced: report.isEnforced ? 'yes' : 'no',
    allow: allow?.source ?? '',
    into: allow?.directive ?? '',
  };
  const what =
    report.blocked === 'inline'
      ? say(report.directive.endsWith('-attr') ? POLICY_TEXTS.attribute : POLICY_TEXTS.inline, params)
      : say(/^https?:/.test(report.blocked) ? POLICY_TEXTS.loads : POLICY_TEXTS.other, params);
  return {
    ...report,
    firstAt: firstAt.toISOString(),
    lastAt: lastAt.toISOString(),
    snippet: blame ? { key: blame.snippet, name: blame.name } : null,
    by: blame?.by ?? null,
    message: `${what} ${say(POLICY_TEXTS.cause, params)}`,
    allow,
  };
}
