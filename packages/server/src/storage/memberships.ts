import type { Role } from '@pragmatica/core';
import { emOf } from './em.js';
import { MembershipEntity } from './entities/index.js';
import type { Credential, Member } from './rows.js';
import type { Store } from './store.js';

/** A role at a site, by key and name. */
export interface NamedSiteRole {
  readonly site: string;
  readonly siteName: string;
  readonly role: Role;
}

/** The single sites at which a member has a role, and those that a token is for. One query. */
export async function rolesAndLimits(
  store: Store,
  member: Pick<Member, 'id'>,
  credential: Pick<Credential, 'id'>,
): Promise<{ readonly roles: readonly NamedSiteRole[]; readonly limits: readonly string[] }> {
  const rows = await emOf(store).execute<(Omit<NamedSiteRole, 'role'> & { role: Role | null })[]>(
    `select s.key as site, s.name as "siteName", m.role from membership m join site s on s.id = m.site_id where m.member_id = ?
     union all
     select s.key, s.name, null from token_site t join site s on s.id = t.site_id where t.credential_id = ?`,
    [member.id, credential.id],
  );
  return {
    roles: rows.flatMap(({ role, ...at }) => (role === null ? [] : [{ ...at, role }])),
    limits: rows.filter(({ role }) => role === null).map(({ site }) => site),
  };
}

/** Names of those who own a site; where there are none, of those who own the installation. One query. */
export async function ownerNames(store: Store, site: string): Promise<string[]> {
  const rows = await emOf(store).execute<{ name: string; everywhere: boolean }[]>(
    `select m.name, false as everywhere from membership o join member m on m.id = o.member_id join site s on s.id = o.site_id
     where s.key = ? and o.role = 'own'
     union all
     select name, true from member where role = 'own' and password_hash <> '!'
     order by everywhere, name limit 20`,
    [site],
  );
  const own = rows.filter(({ everywhere }) => !everywhere);
  return (own.length > 0 ? own : rows).map(({ name }) => name);
}

/** Gives a member a role at a site, whatever it was before. */
export async function setSiteRole(
  store: Store,
  member: Pick<Member, 'id'>,
  site: number,
  role: Role,
): Promise<void> {
  await emOf(store).upsert(MembershipEntity, { member: member.id, site, role });
}

/** Takes a member’s role at a site. @returns whether there was one */
export async function removeSiteRole(
  store: Store,
  member: Pick<Member, 'id'>,
  site: number,
): Promise<boolean> {
  return (await emOf(store).nativeDelete(MembershipEntity, { member: member.id, site })) > 0;
}

/** The roles of some members at single sites, by name of the site. One query. */
export async function rolesOf(
  store: Store,
  members: readonly number[],
): Promise<(NamedSiteRole & { readonly member: number })[]> {
  return emOf(store).execute<(NamedSiteRole & { member: number })[]>(
    `select m.member_id as member, s.key as site, s.name as "siteName", m.role
     from membership m join site s on s.id = m.site_id where m.member_id = any(?::int[])
     order by s.name collate "natural", s.id`,
    [`{${members.join()}}`],
  );
}

/** Somebody who may see a site. */
export interface SiteMember {
  readonly id: number;
  readonly login: string;
  readonly name: string;
  /** What they have said of mails to them; see `mailAddressOf`. */
  readonly mail: string | null;
  /** At this site. */
  readonly role: Role | null;
  /** At all sites. */
  readonly everywhere: Role | null;
}

/** Who may see a site, by name. One query. @param login - only this one */
export async function membersOfSite(store: Store, site: number, login?: string): Promise<SiteMember[]> {
  return emOf(store).execute<SiteMember[]>(
    `select m.id, m.login, m.name, m.mail, o.role, m.role as everywhere
     from member m left join membership o on o.member_id = m.id and o.site_id = ?
     where (o.role is not null or m.role is not null) and m.password_hash <> '!'
       ${login === undefined ? '' : 'and m.login = ?'}
     order by m.name, m.id`,
    [site, ...(login === undefined ? [] : [login])],
  );
}
