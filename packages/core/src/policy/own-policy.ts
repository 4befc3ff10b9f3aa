import { serialize } from './extend.js';

/** The policy that pages get which come with none of their own: what the pages themselves need, whoever reads them. */
export interface OwnPolicy {
  /** Sources by directive; what the snippets need is added page by page. */
  readonly directives: Readonly<Record<string, readonly string[]>>;
  /** Scripts are let in by a nonce that is new for each answer, and by what is let in (`'strict-dynamic'`). */
  readonly isStrict: boolean;
}

/** Where browsers report to. */
export interface ReportsTo {
  readonly address: string;
  /** Whether the page comes by a secure scheme: only then do browsers know the Reporting API's endpoints. */
  readonly isSecure: boolean;
}

/** What the endpoint for reports is called in `Reporting-Endpoints`. */
export const REPORT_GROUP = 'pragmatica';

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
