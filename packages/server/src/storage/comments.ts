import { emOf } from './em.js';
import { fromStored, toStored } from './deferred-words.js';
import type { Site } from './rows.js';
import type { Store } from './store.js';

/** A comment as it is kept. It is on a snippet or on a finding. */
export interface Comment {
  readonly id: number;
  readonly snippet: string | null;
  readonly finding: string | null;
  /** What that was called when it was written. */
  readonly about: string;
  readonly text: string;
  /** The login of whoever wrote it. */
  readonly by: string;
  readonly byName: string;
  readonly at: Date;
  readonly editedAt: Date | null;
  readonly doneBy: string | null;
  readonly doneAt: Date | null;
}

/** Which comments of a site are wanted; what is left out says nothing. */
export interface CommentFilter {
  readonly snippet?: string | undefined;
  readonly finding?: string | undefined;
  readonly state: 'open' | 'done' | 'all';
  /** Those with a lower id. */
  readonly before?: number | undefined;
}

const COLUMNS = `c.id, c.snippet, c.finding, c.about, c.said, c.text, c.by, coalesce(m.name, c.by) as "byName", c.at,
  c.edited_at as "editedAt", c.done_by as "doneBy", c.done_at as "doneAt"`;

interface CommentRow extends Comment {
  readonly said: string | null;
}

function toComment({ said, ...row }: CommentRow): Comment {
  return {
    ...row,
    about: fromStored(row.about, said),
    at: new Date(row.at),
    editedAt: row.editedAt && new Date(row.editedAt),
    doneAt: row.doneAt && new Date(row.doneAt),
  };
}

/** Comments of a site, the newest first. One query. */
export async function commentsOf(
  store: Store,
  site: Pick<Site, 'id'>,
  { snippet, finding, state, before }: CommentFilter,
  limit: number,
): Promise<Comment[]> {
  const conditions: readonly (readonly [sql: string, params: readonly unknown[]])[] = [
    ['c.site_id = ?', [site.id]],
    ...(snippet === undefined ? [] : [['c.snippet = ?', [snippet]] as const]),
    ...(finding === undefined ? [] : [['c.finding = ?', [finding]] as const]),
    ...(state === 'all' ? [] : [[`c.done_at is ${state === 'done' ? 'not ' : ''}null`, []] as const]),
    ...(before === undefined ? [] : [['c.id < ?', [before]] as const]),
  ];
  const rows = await emOf(store).execute<CommentRow[]>(
    `select ${COLUMNS} from comment c left join member m on m.login = c.by
     where ${conditions.map(([sql]) => sql).join(' and ')} order by c.id desc limit ?`,
    [...conditions.flatMap(([, params]) => params), limit],
  );
  return rows.map(toComment);
}

export async function commentById(
  store: Store,
  site: Pick<Site, 'id'>,
  id: number,
): Promise<Comment | undefined> {
  const [row] = await emOf(store).execute<CommentRow[]>(
    `select ${COLUMNS} from comment c left join member m on m.login = c.by where c.site_id = ? and c.id = ?`,
    [site.id, id],
  );
  return row && toComment(row);
}

/** How many of a site are not done with. */
export async function openComments(store: Store, site: Pick<Site, 'id'>): Promise<number> {
  const [row] = await emOf(store).execute<{ n: number }[]>(
    'select count(*)::int as n from comment where site_id = ? and done_at is null',
    [site.id],
  );
  return row!.n;
}

/** What there are comments on, the one that was written on last first. One query. */
export async function commentedOf(
  store: Store,
  site: Pick<Site, 'id'>,
): Promise<(Pick<Comment, 'snippet' | 'finding' | 'about'> & { open: number; all: number })[]> {
  const rows = await emOf(store).execute<
    (Pick<CommentRow, 'snippet' | 'finding' | 'about' | 'said'> & { open: number; all: number })[]
  >(
    `select snippet, finding, (array_agg(about order by id desc))[1] as about,
       (array_agg(said order by id desc))[1] as said, (count(*) filter (where done_at is null))::int as open, count(*)::int as "all"
     from comment where site_id = ? group by snippet, finding order by max(id) desc`,
    [site.id],
  );
  return rows.map(({ said, ...row }) => ({ ...row, about: fromStored(row.about, said) }));
}

export async function insertComment(
  store: Store,
  site: Pick<Site, 'id'>,
  { snippet, finding, about, text, by }: Pick<Comment, 'snippet' | 'finding' | 'about' | 'text' | 'by'>,
): Promise<number> {
  const { words, said } = toStored(about);
  const [row] = await emOf(store).execute<{ id: number }[]>(
    `insert into comment (site_id, snippet, finding, about, said, text, by) values (?, ?, ?, ?, ?, ?, ?)
     returning id`,
    [site.id, snippet, finding, words, said, text, by],
  );
  return row!.id;
}

export async function saveCommentText(store: Store, id: number, text: string): Promise<void> {
  await emOf(store).execute('update comment set text = ?, edited_at = now() where id = ?', [text, id]);
}

/** @param by - who says that it is done with; null where it is not, after all */
export async function saveCommentDone(store: Store, id: number, by: string | null): Promise<void> {
  await emOf(store).execute(
    `update comment set done_by = ?, done_at = ${by === null ? 'null' : 'now()'} where id = ?`,
    [by, id],
  );
}

export async function deleteComment(store: Store, id: number): Promise<void> {
  await emOf(store).execute('delete from comment where id = ?', [id]);
}
