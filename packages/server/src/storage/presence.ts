import { emOf } from './em.js';
import type { Member, Site } from './rows.js';
import type { Store } from './store.js';

/** For so long somebody counts as there who was not heard of: whose process has ended, or whose machine. */
const SILENT_S = 30;

/** Where somebody is in a site. */
export interface Place {
  /** As the console addresses it below the site, such as `snippets/chat`. */
  readonly place: string;
  /** Whether they have changed something there that is not saved. */
  readonly isEditing: boolean;
}

export interface PresentPerson extends Place {
  readonly login: string;
  readonly name: string;
}

/** Somebody comes, with an id of their own for each window. Who went without saying so is cleared away. */
export async function appear(
  store: Store,
  site: Pick<Site, 'id'>,
  { id, member, place, isEditing }: Place & { readonly id: string; readonly member: Pick<Member, 'id'> },
): Promise<void> {
  const em = emOf(store);
  await em.execute(`delete from presence where seen_at < now() - interval '${SILENT_S} seconds'`);
  await em.execute(
    'insert into presence (id, site_id, member_id, place, is_editing) values (?, ?, ?, ?, ?)',
    [id, site.id, member.id, place, isEditing],
  );
}

/** They are there still. */
export async function stay(store: Store, id: string): Promise<void> {
  await emOf(store).execute('update presence set seen_at = now() where id = ?', [id]);
}

export async function leave(store: Store, id: string): Promise<void> {
  await emOf(store).execute('delete from presence where id = ?', [id]);
}

/** Who is in a site, by name and place, each once wherever they are. One query. @param but - an id that does not count */
export async function presentAt(store: Store, site: Pick<Site, 'id'>, but: string): Promise<PresentPerson[]> {
  return emOf(store).execute<PresentPerson[]>(
    `select m.login, m.name, p.place, bool_or(p.is_editing) as "isEditing"
     from presence p join member m on m.id = p.member_id
     where p.site_id = ? and p.id <> ? and p.seen_at > now() - interval '${SILENT_S} seconds'
     group by m.login, m.name, p.place order by m.name, m.login, p.place limit 100`,
    [site.id, but],
  );
}
