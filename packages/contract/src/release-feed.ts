/**
 * What the service's database offers to gateways: three views, read only, a function that takes reports, and a channel to
 * hear of changes on. They are the whole of what a gateway may know, so that tables can change without it.
 */

import type { OwnPolicy, PolicyNeed } from '@pragmatica/core';

/** Channel on which gateways hear, at commit, that what a site serves has changed. */
export const RELEASE_CHANNEL = 'pragmatica_release';
/** Columns: host, environment, origin, transfer, site, release (id or null), delivery, policy (`SentPolicy` or null). */
export const HOST_VIEW = 'gateway_host';
/** Columns: id, number, digest, and what core's `thawSet` makes its set of: header (id of a content), snippets (ids). */
export const RELEASE_VIEW = 'gateway_release';
/** Columns: id, body. What one has never changes. */
export const CONTENT_VIEW = 'gateway_content';
/** Takes what browsers report of a content policy: a JSON array of a `PolicyReport` with `host` and `count` each. */
export const REPORT_FUNCTION = 'gateway_report';

/** Whether a gateway only has browsers report what a policy would stop, or has them stop it. */
export const POLICY_MODES = ['off', 'report', 'enforce'] as const;
export type PolicyMode = (typeof POLICY_MODES)[number];

/** The content policy that a gateway sends with a host's pages. */
export interface SentPolicy {
  readonly mode: Exclude<PolicyMode, 'off'>;
  /** Of pages that come with none. */
  readonly own: OwnPolicy;
  /** Address that browsers report to. */
  readonly reportsTo: string;
  /** What the parts of the release that is served need, by key of the part. */
  readonly needs: Readonly<Record<string, readonly PolicyNeed[]>>;
}
