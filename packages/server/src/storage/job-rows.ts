import { emOf } from './em.js';
import type { Store } from './store.js';

/** Tables whose rows workers work on: they wait, run, and are over. */
type JobTable = 'survey' | 'visit_round';

/** Why work ended early: an id of the texts, with its parameters. */
export interface JobProblem {
  readonly id: string;
  readonly params: Readonly<Record<string, string | number>>;
}

/** Ends work that is not over. @returns whether it was this call that did */
export async function endJob(
  store: Store,
  table: JobTable,
  id: number,
  state: 'done' | 'cancelled' | 'failed',
  problem: JobProblem | null = null,
): Promise<boolean> {
  const rows = await emOf(store).execute<unknown[]>(
    `update "${table}" set state = ?, problem = ?::jsonb, ended_at = now()
     where id = ? and state in ('waiting', 'running') returning id`,
    [state, problem === null ? null : JSON.stringify(problem), id],
  );
  return rows.length > 0;
}

interface Moments {
  readonly createdAt: Date;
  readonly startedAt: Date | null;
  readonly endedAt: Date | null;
}

/** The rows of raw queries have texts for moments, where the driver is told so. */
export function withMoments<T extends Moments>(row: T): T {
  const date = (value: Date | null): Date | null => (value === null ? null : new Date(value));
  return {
    ...row,
    createdAt: new Date(row.createdAt),
    startedAt: date(row.startedAt),
    endedAt: date(row.endedAt),
  };
}
