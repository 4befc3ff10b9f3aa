import { brotliCompress, brotliDecompress, constants } from 'node:zlib';
import { promisify } from 'node:util';
import type { JudgedLoad, VisitEvidence, VisitFailure, VisitScript } from '@pragmatica/core';
import { emOf } from './em.js';
import { fromStored, toStored } from './deferred-words.js';
import type { Store } from './store.js';
import type { GivenVisit, VisitRound } from './visit-rounds.js';

const compress = promisify(brotliCompress);
const decompress = promisify(brotliDecompress);
/** Evidence is text of which most is said before: this much already makes a tenth of it. */
const QUALITY = 4;

export type VisitState = 'waiting' | 'running' | 'done' | 'failed';

/** A visit of a round, without what it saw. */
export interface Visit {
  readonly id: number;
  readonly number: number;
  readonly path: string;
  readonly title: string;
  readonly because: string;
  readonly script: VisitScript;
  readonly without: readonly string[];
  readonly state: VisitState;
  readonly attempts: number;
  readonly failure: VisitFailure | null;
  readonly judged: readonly JudgedLoad[] | null;
  readonly startedAt: Date | null;
  readonly durationMs: number | null;
}

const COLUMNS = `id, number, path, title, because, script, without, state, attempts, failure, judged,
  said, judged_said as "judgedSaid", started_at as "startedAt", duration_ms as "durationMs"`;

/** What is said of a visit before it is made. */
type VisitWords = Pick<Visit, 'title' | 'because'>;

interface VisitRow extends Visit {
  readonly said: VisitWords | null;
  readonly judgedSaid: Visit['judged'];
}

function toVisit({ said, judgedSaid, ...row }: VisitRow): Visit {
  return {
    ...row,
    ...fromStored<VisitWords>({ title: row.title, because: row.because }, said),
    judged: fromStored(row.judged, judgedSaid),
    startedAt: row.startedAt === null ? null : new Date(row.startedAt),
  };
}

function wordsOf({ title, because }: VisitWords): VisitWords & { readonly said: VisitWords | null } {
  const { words, said } = toStored<VisitWords>({ title, because });
  return { ...words, said };
}

/** Plans the visits of a round that has none yet. */
export async function planVisits(
  store: Store,
  { id }: Pick<VisitRound, 'id'>,
  visits: readonly GivenVisit[],
): Promise<void> {
  await emOf(store).execute(
    `insert into visit (round_id, number, path, title, because, script, without, said)
       select ?, number, path, title, because, script, coalesce(without, '[]'::json), said
       from json_to_recordset(?::json)
         as v(number int, path text, title text, because text, script json, without json, said json)
     on conflict (round_id, number) do nothing`,
    [id, JSON.stringify(visits.map((visit, index) => ({ number: index + 1, ...visit, ...wordsOf(visit) })))],
  );
}

export async function visitsOf(store: Store, { id }: Pick<VisitRound, 'id'>): Promise<readonly Visit[]> {
  const rows = await emOf(store).execute<VisitRow[]>(
    `select ${COLUMNS} from visit where round_id = ? order by number`,
    [id],
  );
  return rows.map(toVisit);
}

export async function visitByNumber(
  store: Store,
  { id }: Pick<VisitRound, 'id'>,
  number: number,
): Promise<Visit | undefined> {
  const [row] = await emOf(store).execute<VisitRow[]>(
    `select ${COLUMNS} from visit where round_id = ? and number = ?`,
    [id, number],
  );
  return row && toVisit(row);
}

/**
 * Takes the next visit of a round that nobody works on. What another worker took and never came back from is taken again.
 *
 * @param attempts - a visit that failed so often is not tried once more
 */
export async function takeVisit(
  store: Store,
  { id }: Pick<VisitRound, 'id'>,
  attempts: number,
  silentMs: number,
): Promise<Visit | undefined> {
  const [row] = await emOf(store).execute<VisitRow[]>(
    `update visit set state = 'running', attempts = attempts + 1, started_at = now() where id = (
       select id from visit where round_id = ? and attempts < ? and (state = 'waiting'
         or state = 'running' and started_at < now() - ? * interval '1 millisecond')
       order by number limit 1 for update skip locked)
     returning ${COLUMNS}`,
    [id, attempts, silentMs],
  );
  return row && toVisit(row);
}

/** Adds a visit to a round whose visits follow from each other; it is taken at once. Several may be added at a time. */
export async function addVisit(
  store: Store,
  { id }: Pick<VisitRound, 'id'>,
  { path, title, because, script, without = [] }: GivenVisit,
): Promise<Visit> {
  const words = wordsOf({ title, because });
  return store.transactional(async (transaction) => {
    const em = emOf(transaction);
    // A statement of its own: the next one sees the numbers that were given while this one waited.
    await em.execute('select 1 from visit_round where id = ? for no key update', [id]);
    const [row] = await em.execute<VisitRow[]>(
      `insert into visit (round_id, number, path, title, because, said, script, without, state, attempts, started_at)
       values (?, (select coalesce(max(number), 0) + 1 from visit where round_id = ?), ?, ?, ?, ?::json, ?::json, ?::json,
         'running', 1, now())
       returning ${COLUMNS}`,
      [
        ...[id, id, path, words.title, words.because],
        ...[words.said && JSON.stringify(words.said), JSON.stringify(script), JSON.stringify(without)],
      ],
    );
    return toVisit(row!);
  });
}

/** Removes the visits of a round: what a worker that is gone had begun is begun anew. */
export async function forgetVisits(store: Store, { id }: Pick<VisitRound, 'id'>): Promise<void> {
  await emOf(store).execute('delete from visit where round_id = ?', [id]);
}

/** Whether somebody is still making visits of a round. */
export async function hasVisitsUnderWay(store: Store, { id }: Pick<VisitRound, 'id'>): Promise<boolean> {
  const [row] = await emOf(store).execute<{ found: boolean }[]>(
    `select exists (select 1 from visit where round_id = ? and state = 'running') as found`,
    [id],
  );
  return row?.found === true;
}

/** Gives a visit back that was not done. */
export async function returnVisit(store: Store, { id }: Pick<Visit, 'id'>, attempts: number): Promise<void> {
  await emOf(store).execute(
    `update visit set state = case when attempts >= ? then 'failed' else 'waiting' end,
       failure = case when attempts >= ? then 'crashed' end where id = ? and state = 'running'`,
    [attempts, attempts, id],
  );
}

export interface DoneVisit {
  readonly evidence: VisitEvidence;
  readonly judged: readonly JudgedLoad[];
  readonly screenshots: readonly Buffer[];
}

/** Keeps what a visit saw. */
export async function saveVisit(store: Store, { id }: Pick<Visit, 'id'>, done: DoneVisit): Promise<void> {
  const { evidence, judged, screenshots } = done;
  const packed = await compress(JSON.stringify(evidence), {
    params: { [constants.BROTLI_PARAM_QUALITY]: QUALITY },
  });
  const { words, said } = toStored(judged);
  await store.transactional(async (transaction) => {
    const em = emOf(transaction);
    await em.execute(
      `update visit set state = ?, failure = ?, judged = ?::json, judged_said = ?::json, evidence = ?, duration_ms = ? where id = ?`,
      [
        evidence.failure === null ? 'done' : 'failed',
        evidence.failure,
        storable(words),
        said && storable(said),
        packed,
        evidence.durationMs,
        id,
      ],
    );
    for (const [number, image] of screenshots.entries())
      await em.execute(
        `insert into visit_screenshot (visit_id, number, image) values (?, ?, ?)
         on conflict (visit_id, number) do update set image = excluded.image`,
        [id, number, image],
      );
  });
}

function storable(judged: readonly JudgedLoad[]): string {
  return JSON.stringify(judged).replaceAll('\\u0000', '\\ufffd');
}

/** What a visit saw; undefined while it has not been there. */
export async function evidenceOf(
  store: Store,
  { id }: Pick<Visit, 'id'>,
): Promise<VisitEvidence | undefined> {
  const [row] = await emOf(store).execute<{ evidence: Buffer | null }[]>(
    'select evidence from visit where id = ?',
    [id],
  );
  if (!row?.evidence) return undefined;
  return JSON.parse((await decompress(row.evidence)).toString()) as VisitEvidence;
}

export async function screenshotOf(
  store: Store,
  { id }: Pick<Visit, 'id'>,
  number: number,
): Promise<Buffer | undefined> {
  const [row] = await emOf(store).execute<{ image: Buffer }[]>(
    'select image from visit_screenshot where visit_id = ? and number = ?',
    [id, number],
  );
  return row?.image;
}
