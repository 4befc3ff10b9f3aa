import type { EntityManager } from '@mikro-orm/postgresql';
import { originsOf, type Environment, type SiteResource } from '@pragmatica/contract';
import { countFindings, difference, openStep, type Finding, type WaivedFindings } from '@pragmatica/core';
import { isLocalHost } from '@pragmatica/contract/node';
import type { SiteClient } from '../outgoing/site-client.js';
import { groupBy } from '../group-by.js';
import { loadDrafts, toSnapshot, type DraftSnippet } from '../storage/draft.js';
import { HostEntity, PointerEntity, type Host, type Pointer, type Site } from '../storage/entities/index.js';
import { emptySnapshot } from './sets.js';
import type { SiteChecks } from './site-checks.js';

type Attention = SiteResource['attention'][number];

/** Sites as the API shows them, with what needs attention. Eight queries, however many sites. */
export async function describeSites(
  em: EntityManager,
  checks: SiteChecks,
  sites: readonly Site[],
): Promise<SiteResource[]> {
  const ids = { $in: sites.map((site) => site.id) };
  const hosts = groupBy(
    await em.find(HostEntity, { site: ids }, { orderBy: { position: 'asc' } }),
    (host) => host.site.id,
  );
  const pointers = groupBy(
    await em.find(PointerEntity, { site: ids }, { populate: ['release'] }),
    (pointer) => pointer.site.id,
  );
  const drafts = await loadDrafts(em, sites);
  const checked = await checks.applyWaiversToAll(
    em,
    sites.map((site) => ({
      site,
      snapshot: toSnapshot(site, drafts.get(site.id) ?? []),
      hosts: hosts.get(site.id) ?? [],
    })),
  );
  return sites.map((site) =>
    describe(
      site,
      hosts.get(site.id) ?? [],
      pointers.get(site.id) ?? [],
      drafts.get(site.id) ?? [],
      checked.get(site.id)!,
      checks,
    ),
  );
}

function describe(
  site: Site,
  hosts: readonly Host[],
  pointers: readonly Pointer[],
  draft: readonly DraftSnippet[],
  { open, waived }: WaivedFindings,
  checks: SiteChecks,
): SiteResource {
  const serving = (environment: Environment): Pointer | undefined =>
    pointers.find((pointer) => pointer.environment === environment);
  const live = serving('live')?.release;
  const now = toSnapshot(site, draft);
  const pendingChanges = 0; // TODO
  const counted = groupBy(draft, ({ snippet }) => snippet.state);
  const count = (state: 'on' | 'off' | 'archived'): number => counted.get(state)?.length ?? 0;
  return {
    key: site.key,
    name: site.name,
    timeZone: site.timeZone,
    hosts: hosts.map(({ host, environment, origin, address, transfer }) => ({
      host,
      environment,
      origin,
      address: address ?? null,
      transfer,
    })),
    pageGroups: site.pageGroups.map((group) => ({ ...group, patterns: [...group.patterns] })),
    consent: toConsent(site.consent),
    fields: site.fields.map((field) => ({ ...field })),
    environments: { staging: serving('staging')?.release.number ?? null, live: live?.number ?? null },
    snippets: { on: count('on'), off: count('off'), archived: count('archived') },
    pendingChanges,
    attention: [
      ...errorAttention(open),
      ...hostAttention(hosts),
      ...originAttention(hosts, checks.client),
      ...publishingAttention(live?.number, pendingChanges, draft.length),
      ...stepAttention(open),
    ],
    findings: { ...countFindings(open), waived: waived.length },
    version: site.version,
    updatedBy: site.updatedBy,
    updatedAt: site.updatedAt.toISOString(),
  };
}

function toConsent(consent: Site['consent']): SiteResource['consent'] {
  return consent ? { ...consent, categories: consent.categories.map((category) => ({ ...category })) } : null;
}

/** What is worse comes first: errors, then what nobody gets, then what waits to be published. */
export function byAttention(a: SiteResource, b: SiteResource): number {
  return urgency(b) - urgency(a) || a.name.localeCompare(b.name, 'en', { numeric: true });
}

const URGENCY: Readonly<Record<Attention['kind'], number>> = {
  'errors-found': 16,
  'no-host': 8,
  'local-origin': 0,
  'never-published': 4,
  'not-live': 2,
  'steps-open': 1,
};

function urgency({ attention }: SiteResource): number {
  return attention.reduce((sum, { kind }) => sum + URGENCY[kind], 0);
}

function hostAttention(hosts: readonly Host[]): Attention[] {
  if (hosts.some((host) => host.environment === 'live')) return [];
  return [
    {
      kind: 'no-host',
      message:
        'The site has no live host yet, so the gateway serves none of its pages. Add one in the settings.',
    },
  ];
}

/** What the service does not visit it knows nothing of; visitors get their pages all the same. */
function originAttention(hosts: readonly Host[], client: SiteClient): Attention[] {
  if (client.mayBeLocal) return [];
  const local = hosts.find(({ origin }) =>
    originsOf(origin).some((address) => URL.canParse(address) && isLocalHost(new URL(address).hostname)),
  );
  if (!local) return [];
  return [
    {
      kind: 'local-origin',
      message: `The origin of ${local.host} (${local.origin}) is an address of a private network. The service does not visit it, so its pages are not known and cannot be checked. If that is right, set PRAGMATICA_LOCAL_ORIGINS=1 on the service.`,
    },
  ];
}

function publishingAttention(live: number | undefined, pending: number, snippets: number): Attention[] {
  if (live === undefined) {
    const message =
      snippets === 0
        ? 'No snippets yet. Add the first one.'
        : 'Nothing was published yet: visitors get none of these snippets.';
    return [{ kind: 'never-published', message }];
  }
  if (pending === 0) return [];
  const changes = pending === 1 ? '1 change is' : `${pending} changes are`;
  return [
    { kind: 'not-live', message: `${changes} saved but not live: visitors still get release ${live}.` },
  ];
}

function stepAttention(open: readonly Finding[]): Attention[] {
  const steps = open.filter(({ check }) => check === openStep.id);
  if (steps.length === 0) return [];
  const more =
    steps.length === 1 ? '' : ` And ${steps.length - 1} more ${steps.length === 2 ? 'step' : 'steps'}.`;
  return [{ kind: 'steps-open', message: `To be done at a provider: ${steps[0]!.title}.${more}` }];
}

function errorAttention(open: readonly Finding[]): Attention[] {
  const errors = open.filter(({ severity }) => severity === 'error');
  if (errors.length === 0) return [];
  const more =
    errors.length === 1 ? '' : ` And ${errors.length - 1} more ${errors.length === 2 ? 'error' : 'errors'}.`;
  return [{ kind: 'errors-found', message: `Cannot be published like this: ${errors[0]!.title}.${more}` }];
}
