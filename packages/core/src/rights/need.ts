import { mayAt, mayEverywhere, type Access, type Right } from './rights.js';

/** Rights that a call of the API takes. */
export interface NeededRights {
  /** At the site in its address. */
  readonly site?: Right;
  /** At each of the sites that its body names: one that lacks it is left out, and said. */
  readonly eachSite?: Right;
  /** For the installation, which is for all sites. */
  readonly installation?: Right;
}

/**
 * What a call takes: rights; `account`, for one’s own account, where a token that was made for less has no say; `sign-in`,
 * for what holds nothing of a site, or only what whoever asks may see; `nothing`, for whom a secret in the call lets in.
 */
export type Need = NeededRights | 'account' | 'sign-in' | 'nothing';

/** What is missing for a call. */
export type Missing =
  /** Whoever asks does not see the site: it is as if there were none. */
  | { readonly what: 'site-hidden' }
  | { readonly what: 'site-right'; readonly right: Right }
  | { readonly what: 'installation-right'; readonly right: Right }
  | { readonly what: 'whole-account' };

/**
 * What is missing for a call, if anything. What is needed at each site is not looked at here: one by one is.
 *
 * @param site - key of the site in the address, where there is one
 */
export function missingFor(need: Need, access: Access, site: string | undefined): Missing | undefined {
  if (need === 'nothing' || need === 'sign-in') return undefined;
  if (need === 'account') return access.isLimited ? { what: 'whole-account' } : undefined;
  if (need.site !== undefined) {
    if (site === undefined || !mayAt(access, site, 'view')) return { what: 'site-hidden' };
    if (!mayAt(access, site, need.site)) return { what: 'site-right', right: need.site };
  }
  if (need.installation !== undefined && !mayEverywhere(access, need.installation))
    return { what: 'installation-right', right: need.installation };
  return undefined;
}

/** What a call takes, as names of roles of an OpenAPI security requirement (OpenAPI 3.1, 4.8.30). */
export function needNames(need: Need): string[] {
  if (typeof need === 'string') return need === 'account' ? ['account'] : [];
  return Object.entries(need).map(([where, right]) => `${where}:${String(right)}`);
}
