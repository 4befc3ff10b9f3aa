import { originsOf, type HostResource, type SiteResource } from '@pragmatica/contract';
import { isLocalHost } from '@pragmatica/contract/node';
import { openStep, type Finding } from '@pragmatica/core';

type Attention = SiteResource['attention'][number];

/** What is looked at to say what needs somebody. */
export interface SiteState {
  readonly hosts: readonly Pick<HostResource, 'host' | 'environment' | 'origin'>[];
  /** Whether the service itself may visit origins in a private network. */
  readonly mayVisitLocal: boolean;
  /** Number of the release that visitors get. */
  readonly live: number | undefined;
  readonly pendingChanges: number;
  readonly snippets: number;
  /** Findings that nobody has accepted. */
  readonly open: readonly Finding[];
}

/** What needs somebody at a site, what is worse first. */
export function attentionOf(site: SiteState): Attention[] {
  return [
    ...errorAttention(site),
    ...hostAttention(site),
    ...originAttention(site),
    ...publishingAttention(site),
    ...stepAttention(site),
  ];
}

const URGENCY: Readonly<Record<Attention['kind'], number>> = {
  'errors-found': 16,
  'no-host': 8,
  'local-origin': 0,
  'never-published': 4,
  'not-live': 2,
  'steps-open': 1,
};

/** Lists begin with what is higher: errors, then what nobody gets, then what waits to be published. */
export function urgencyOf(attention: readonly Attention[]): number {
  return attention.reduce((sum, { kind }) => sum + URGENCY[kind], 0);
}

function hostAttention({ hosts }: SiteState): Attention[] {
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
function originAttention({ hosts, mayVisitLocal }: SiteState): Attention[] {
  if (mayVisitLocal) return [];
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

function publishingAttention({ live, pendingChanges, snippets }: SiteState): Attention[] {
  if (live === undefined) {
    const message =
      snippets === 0
        ? 'No snippets yet. Add the first one.'
        : 'Nothing was published yet: visitors get none of these snippets.';
    return [{ kind: 'never-published', message }];
  }
  if (pendingChanges === 0) return [];
  const changes = pendingChanges === 1 ? '1 change is' : `${pendingChanges} changes are`;
  return [
    { kind: 'not-live', message: `${changes} saved but not live: visitors still get release ${live}.` },
  ];
}

function stepAttention({ open }: SiteState): Attention[] {
  const steps = open.filter(({ check }) => check === openStep.id);
  if (steps.length === 0) return [];
  const more =
    steps.length === 1 ? '' : ` And ${steps.length - 1} more ${steps.length === 2 ? 'step' : 'steps'}.`;
  return [{ kind: 'steps-open', message: `To be done at a provider: ${steps[0]!.title}.${more}` }];
}

function errorAttention({ open }: SiteState): Attention[] {
  const errors = open.filter(({ severity }) => severity === 'error');
  if (errors.length === 0) return [];
  const more =
    errors.length === 1 ? '' : ` And ${errors.length - 1} more ${errors.length === 2 ? 'error' : 'errors'}.`;
  return [{ kind: 'errors-found', message: `Cannot be published like this: ${errors[0]!.title}.${more}` }];
}
