import type { CountLimit } from '@pragmatica/contract';
import { emOf } from './em.js';
import type { Member } from './rows.js';
import type { Store } from './store.js';

/** What is counted: of the installation, of the site with a key, or of a member. Snippets are counted where they are added. */
const COUNTS: Readonly<Record<Exclude<CountLimit, 'snippets'>, string>> = {
  sites: 'select count(*)::int as n from site',
  members: `select count(*)::int as n from member where password_hash <> '!'`,
  invitations: 'select count(*)::int as n from invitation where expires_at > now()',
  recipes: 'select count(distinct key)::int as n from recipe',
  waivers: 'select count(*)::int as n from waiver w join site s on s.id = w.site_id where s.key = :site',
  approvals: `select count(*)::int as n from approval a join site s on s.id = a.site_id
    where s.key = :site and a.decision is null and a.published is null`,
  comments: 'select count(*)::int as n from comment c join site s on s.id = c.site_id where s.key = :site',
  handovers:
    'select count(*)::int as n from handover h join site s on s.id = h.site_id where s.key = :site and h.until > now()',
  webhooks: 'select count(*)::int as n from webhook w join site s on s.id = w.site_id where s.key = :site',
  tokens: `select count(*)::int as n from credential where member_id = :member and kind = 'token' and expires_at > now()`,
  passkeys: 'select count(*)::int as n from passkey where member_id = :member',
  identities: 'select count(*)::int as n from identity where member_id = :member',
};

/** How many there are. One query. @param of - key of the site, and the member */
export async function countOf(
  store: Store,
  what: Exclude<CountLimit, 'snippets'>,
  { site, member }: { readonly site: string | undefined; readonly member: Pick<Member, 'id'> | undefined },
): Promise<number> {
  const params: unknown[] = [];
  const sql = COUNTS[what].replace(/:(site|member)\b/g, (_, name: string) => {
    params.push(name === 'site' ? (site ?? '') : (member?.id ?? 0));
    return '?';
  });
  const [row] = await emOf(store).execute<{ n: number }[]>(sql, params);
  return row!.n;
}
