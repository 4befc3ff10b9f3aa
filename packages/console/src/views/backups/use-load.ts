import { useMemo } from 'react';
import { BACKUPS } from '../../texts/backups';
import { useStream } from '../../ui/use-stream';

type LoadEvent =
  | { readonly type: 'begun'; readonly rows: number }
  | { readonly type: 'loading'; readonly table: string; readonly rows: number }
  | { readonly type: 'done' }
  | { readonly type: 'failed' };

interface Seen<Done> {
  readonly rows: number;
  /** Rows that have been read, by table. */
  readonly read: Readonly<Record<string, number>>;
  readonly result?: Done;
}

/** Follows a backup being loaded. Leaving the view ends it, and nothing was done. */
export function useLoad<E extends LoadEvent>() {
  type Done = Extract<E, { readonly type: 'done' }>;
  const options = useMemo(
    () => ({
      initial: { rows: 0, read: {} },
      fold: (seen: Seen<Done>, event: E): Seen<Done> => {
        if (event.type === 'done') return { ...seen, result: event as Done };
        if (event.type === 'begun') return { ...seen, rows: event.rows };
        if (event.type !== 'loading') return seen;
        return { ...seen, read: { ...seen.read, [event.table]: event.rows } };
      },
      isLast: ({ type }: E) => type === 'done',
      brokeOff: BACKUPS.brokeOff,
    }),
    [],
  );
  const { state, value, error, run, stop } = useStream<E, Seen<Done>>(options);
  const { rows, read, result } = value;
  const done = Object.values(read).reduce((sum, count) => sum + count, 0);
  return {
    isRunning: state === 'running',
    /** Undefined before anything has been read. */
    progress: done > 0 ? { done, rows } : undefined,
    result,
    error,
    run,
    stop,
  };
}
