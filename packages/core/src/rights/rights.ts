/** What somebody may do, the least first. */
export const RIGHTS = ['view', 'edit', 'publish', 'own'] as const;
export type Right = (typeof RIGHTS)[number];

/** What a member is at a site, or at all sites: each role can do what the ones before it can. */
export const ROLES = ['view', 'edit', 'publish', 'own'] as const satisfies readonly Right[];
export type Role = (typeof ROLES)[number];

/** What a token may be made for: a role, or publishing what others have edited, for a build pipeline. */
export const TOKEN_ROLES = [...ROLES, 'deploy'] as const;
export type TokenRole = (typeof TOKEN_ROLES)[number];

/** The rights of a role. */
export function rightsOf(role: TokenRole): ReadonlySet<Right> {
  if (role === 'deploy') return new Set(['view', 'publish']);
  return new Set(RIGHTS.slice(0, RIGHTS.indexOf(role) + 1));
}

/** A role at one site. */
export interface SiteRole {
  /** Key of the site. */
  readonly site: string;
  readonly role: Role;
}

/** What a member was given. */
export interface Membership {
  /** At all sites, those to come too, and for the installation; null for none. */
  readonly everywhere: Role | null;
  /** At single sites, where it is more than that. */
  readonly sites: readonly SiteRole[];
}

/** What a token was made for: it can do no more than its member can, and no more than this. */
export interface TokenLimits {
  readonly role: TokenRole;
  /** Keys of sites; null for all that its member sees. */
  readonly sites: readonly string[] | null;
}

/** What whoever asks may do, now. */
export interface Access {
  /** At all sites, and for the installation. */
  readonly everywhere: ReadonlySet<Right>;
  /** By key of the site, all rights there; sites that are not in it have those of everywhere. */
  readonly sites: ReadonlyMap<string, ReadonlySet<Right>>;
  /** Whether it is a token that was made for less than its member may do: it has no say about the member’s own account. */
  readonly isLimited: boolean;
}

const NOTHING: ReadonlySet<Right> = new Set();

/** Of somebody who is not signed in. */
export const NO_ACCESS: Access = { everywhere: NOTHING, sites: new Map(), isLimited: true };

/** What a member may do, directly or with a token. */
export function accessOf({ everywhere, sites }: Membership, token?: TokenLimits): Access {
  const general = everywhere === null ? NOTHING : rightsOf(everywhere);
  const own = new Map(sites.map(({ site, role }) => [site, union(general, rightsOf(role))]));
  if (!token) return { everywhere: general, sites: own, isLimited: false };
  const limit = rightsOf(token.role);
  const limited = (rights: ReadonlySet<Right>): ReadonlySet<Right> =>
    new Set([...rights].filter((right) => limit.has(right)));
  if (token.sites === null)
    return {
      everywhere: limited(general),
      sites: new Map([...own].map(([site, rights]) => [site, limited(rights)])),
      isLimited: true,
    };
  return {
    everywhere: NOTHING,
    sites: new Map(token.sites.map((site) => [site, limited(own.get(site) ?? general)])),
    isLimited: true,
  };
}

/** Whether something may be done at a site. @param site - its key */
export function mayAt({ everywhere, sites }: Access, site: string, right: Right): boolean {
  return (sites.get(site) ?? everywhere).has(right);
}

/** Whether something may be done at all sites, and for the installation. */
export function mayEverywhere({ everywhere }: Access, right: Right): boolean {
  return everywhere.has(right);
}

/** Sites at which something may be done: all of them, or the keys of some. */
export function sitesWith(access: Access, right: Right): 'all' | readonly string[] {
  if (access.everywhere.has(right)) return 'all';
  return [...access.sites].filter(([, rights]) => rights.has(right)).map(([site]) => site);
}

/** What may be done at a site, the least first. */
export function rightsAt({ everywhere, sites }: Access, site: string): Right[] {
  const rights = sites.get(site) ?? everywhere;
  return RIGHTS.filter((right) => rights.has(right));
}

/** The one of two roles that can do more. */
export function higherRole(one: Role | null, other: Role | null): Role | null {
  return ROLES.indexOf(one as Role) > ROLES.indexOf(other as Role) ? one : other;
}

function union(one: ReadonlySet<Right>, other: ReadonlySet<Right>): ReadonlySet<Right> {
  return new Set([...one, ...other]);
}
