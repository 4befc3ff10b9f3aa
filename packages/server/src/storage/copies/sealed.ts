import { emOf } from '../em.js';
import type { Run } from '../run.js';
import type { Store } from '../store.js';

/** A value that is sealed with the installation's key, and for what: the key of another machine cannot open it. */
export type SealedValue =
  | {
      readonly kind: 'second-factor';
      readonly member: number;
      readonly login: string;
      readonly sealed: string;
    }
  | {
      readonly kind: 'host-access';
      readonly site: number;
      readonly siteKey: string;
      readonly host: string;
      readonly sealed: string;
    }
  | {
      readonly kind: 'webhook';
      readonly site: number;
      readonly siteKey: string;
      readonly url: string;
      readonly sealed: string;
    };

/** A value that was sealed with another key, sealed anew; undefined where it cannot be opened. */
export type Reseal = (value: SealedValue) => string | undefined;

/** A value that nobody can open any more. */
export interface LostSecret {
  readonly kind: SealedValue['kind'];
  /** Login of the member, or the host, or the address. */
  readonly name: string;
  /** Key of the site; null where it is a member's. */
  readonly site: string | null;
}

const READ = `
  select 'second-factor' as kind, id as member, null::int as site, null as "siteKey", login as name, second_factor as sealed
    from member where second_factor is not null
  union all
  select 'host-access', null, a.site_id, s.key, a.host, a.sealed from host_access a join site s on s.id = a.site_id
  union all
  select 'webhook', null, w.site_id, s.key, w.url, w.sealed from webhook w join site s on s.id = w.site_id`;

/** Everything that is sealed, each with a name for people. */
export async function sealedValues(
  store: Store,
): Promise<readonly (SealedValue & { readonly name: string })[]> {
  const rows = await emOf(store).execute<SealedRow[]>(READ);
  return rows.map((row) => ({ ...valueOf(row), name: row.name }));
}

interface SealedRow {
  readonly kind: SealedValue['kind'];
  readonly member: number | null;
  readonly site: number | null;
  readonly siteKey: string | null;
  readonly name: string;
  readonly sealed: string;
}

/**
 * Seals everything anew that came from another installation.
 *
 * @param site - only what is of the site with this id
 * @returns what could not be opened: it stays as it is
 */
export async function resealAll(run: Run, reseal: Reseal, site?: number): Promise<LostSecret[]> {
  const lost: LostSecret[] = [];
  const rows = await run<SealedRow>(READ);
  for (const row of site === undefined ? rows : rows.filter((one) => one.site === site)) {
    const sealed = reseal(valueOf(row));
    if (sealed === undefined) lost.push({ kind: row.kind, name: row.name, site: row.siteKey });
    else await write(run, row, sealed);
  }
  return lost;
}

function valueOf({ kind, member, site, siteKey, name, sealed }: SealedRow): SealedValue {
  if (kind === 'second-factor') return { kind, member: member!, login: name, sealed };
  const ofSite = { site: site!, siteKey: siteKey!, sealed };
  return kind === 'webhook' ? { kind, url: name, ...ofSite } : { kind, host: name, ...ofSite };
}

async function write(run: Run, { kind, member, site, name }: SealedRow, sealed: string): Promise<void> {
  if (kind === 'second-factor')
    await run('update member set second_factor = ? where id = ?', [sealed, member]);
  else if (kind === 'webhook')
    await run('update webhook set sealed = ? where site_id = ? and url = ?', [sealed, site, name]);
  else await run('update host_access set sealed = ? where site_id = ? and host = ?', [sealed, site, name]);
}
