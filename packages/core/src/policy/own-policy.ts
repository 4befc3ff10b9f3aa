import { serialize, type AllowedSource } from './extend.js';

/** What is decided on the policy of a host: the one of pages that come with none, and what all pages allow beside. */
export interface OwnPolicy {
  /** Sources by directive; what the snippets need is added page by page. */
  readonly directives: Readonly<Record<string, readonly string[]>>;
  /** Scripts are let in by a nonce that is new for each answer, and by what is let in (`'strict-dynamic'`). */
  readonly isStrict: boolean;
  /** What somebody has allowed on all pages, those with a policy of their own included. */
  readonly allowed: readonly AllowedSource[];
}

/** Where browsers report to. */
export interface ReportsTo {
  readonly address: string;
  /** Whether the page comes by a secure scheme: only then do browsers know the Reporting API's endpoints. */
  readonly isSecure: boolean;
}

export function isSourceAllowed(
  { directives, allowed }: OwnPolicy,
  { directive, source }: AllowedSource,
): boolean {
  const isInOwn = directives[directive]?.includes(source) === true;
  return isInOwn || allowed.some((one) => one.directive === directive && one.source === source);
}

/** Allows a source on all pages. */
export function allowSource(own: OwnPolicy, { directive, source }: AllowedSource): OwnPolicy {
  return isSourceAllowed(own, { directive, source })
    ? own
    : { ...own, allowed: [...own.allowed, { directive, source }] };
}

/** Takes a source off; a directive of which nothing is left goes, but the one for scripts. */
export function denySource(own: OwnPolicy, { directive, source }: AllowedSource): OwnPolicy {
  const directives = Object.entries(own.directives).flatMap(([name, sources]) => {
    const left = name === directive ? sources.filter((one) => one !== source) : sources;
    return left.length > 0 || name === 'script-src' ? [[name, left] as const] : [];
  });
  const allowed = own.allowed.filter((one) => one.directive !== directive || one.source !== source);
  return { ...own, directives: Object.fromEntries(directives), allowed };
}

/** What the endpoint for reports is called in `Reporting-Endpoints`. */
const REPORT_GROUP = 'pragmatica';

/** @param nonce - of this answer; only asked for by a strict policy */
export function ownPolicyText({ directives, isStrict }: OwnPolicy, nonce: string): string {
  const strict = isStrict ? [`'nonce-${nonce}'`, "'strict-dynamic'"] : [];
  return serialize(
    Object.entries(directives).map(([name, sources]) => [
      name,
      name === 'script-src' ? [...strict, ...sources, "'report-sample'"] : sources,
    ]),
  );
}

/** The policy with where it is reported to; a browser that knows both asks the second only (CSP Level 3, 6.5.1). */
export function withReports(policy: string, { address, isSecure }: ReportsTo): string {
  return `${policy}; report-uri ${address}${isSecure ? `; report-to ${REPORT_GROUP}` : ''}`;
}

/** The header that names the endpoint (Reporting API, 3.2). */
export function reportingEndpoints(address: string): string {
  return `${REPORT_GROUP}="${address}"`;
}
