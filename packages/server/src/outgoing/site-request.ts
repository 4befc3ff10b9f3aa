import type { Response } from 'undici';

export type SiteResponse = Response;

export interface SiteRequest {
  readonly headers?: Readonly<Record<string, string>>;
  readonly signal?: AbortSignal;
  /** Redirects that are followed where they lead to a host of the site. @defaultValue 0 */
  readonly redirects?: number;
  /** What is sent, as a form is (`application/x-www-form-urlencoded`); then it is a POST. */
  readonly form?: string;
  /** Origins besides the base that belong to the site: `https://www.example.com`. */
  readonly ownOrigins?: readonly string[];
}
