import { originsOf, type HostResource, type SiteResource } from '@pragmatica/contract';
import { isLocalHost } from '@pragmatica/contract/node';
import { openStep, wordFinding, type UnwordedFinding } from '@pragmatica/core';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

type Attention = SiteResource['attention'][number];

/** What is looked at to say what needs somebody. */
export interface SiteState {
  readonly hosts: readonly (Pick<HostResource, 'host' | 'environment' | 'origin' | 'delivery'> & {
    readonly address?: string | null;
  })[];
  /** Whether the service itself may visit origins in a private network. */
  readonly mayVisitLocal: boolean;
  /** Number of the release that visitors get. */
  readonly live: number | undefined;
  readonly pendingChanges: number;
  readonly snippets: number;
  /** Findings that nobody has accepted. */
  readonly open: readonly UnwordedFinding[];
}

/** What needs somebody at a site, what is worse first. */
export function attentionOf(site: SiteState): Attention[] {
  return [
    ...errorAttention(site),
    ...hostAttention(site),
    ...ownOriginAttention(site),
    ...originAttention(site),
    ...publishingAttention(site),
    ...stepAttention(site),
  ];
}

const URGENCY: Readonly<Record<Attention['kind'], number>> = {
  'errors-found': 16,
  'no-host': 8,
  'own-origin': 8,
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
      message: SITE_TEXTS.siteHasNo,
    },
  ];
}

/** A gateway that asks the host itself for its pages asks itself, as soon as the domain leads to it. */
function ownOriginAttention({ hosts }: SiteState): Attention[] {
  const own = hosts.find(({ host, address, origin, delivery }) => {
    const ours = new URL(address ?? `http://${host}`).host;
    return (
      delivery === 'gateway' &&
      originsOf(origin).some((asked) => URL.canParse(asked) && new URL(asked).host === ours)
    );
  });
  if (!own) return [];
  return [{ kind: 'own-origin', message: say(SITE_TEXTS.originIsHost, { host: own.host }) }];
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
      message: say(SITE_TEXTS.originHostOrigin, { host: local.host, origin: local.origin }),
    },
  ];
}

function publishingAttention({ live, pendingChanges, snippets }: SiteState): Attention[] {
  if (live === undefined) {
    const message = snippets === 0 ? SITE_TEXTS.noSnippetsYet : SITE_TEXTS.nothingWasPublished;
    return [{ kind: 'never-published', message }];
  }
  if (pendingChanges === 0) return [];
  return [{ kind: 'not-live', message: say(SITE_TEXTS.notLive, { count: pendingChanges, live }) }];
}

function stepAttention({ open }: SiteState): Attention[] {
  const steps = open.filter(({ check }) => check === openStep.id);
  if (steps.length === 0) return [];
  const message = say(SITE_TEXTS.stepsOpen, { title: wordFinding(steps[0]!).title, more: steps.length - 1 });
  return [{ kind: 'steps-open', message }];
}

function errorAttention({ open }: SiteState): Attention[] {
  const errors = open.filter(({ severity }) => severity === 'error');
  if (errors.length === 0) return [];
  const message = say(SITE_TEXTS.errorsFound, {
    title: wordFinding(errors[0]!).title,
    more: errors.length - 1,
  });
  return [{ kind: 'errors-found', message }];
}
