import { Readable } from 'node:stream';
import type { LostSecret, Upload } from '@pragmatica/contract';
import type { BackupManifest } from '@pragmatica/backup';
import { colour, print, printProse, Progress } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { say } from '../../texts/say.js';

/** A backup's archive as the service takes it. */
export function uploadOf(bytes: AsyncIterable<Uint8Array>): Upload {
  const stream = Readable.toWeb(Readable.from(bytes, { objectMode: false }));
  return { type: 'application/x-tar', bytes: stream as ReadableStream<Uint8Array> };
}

type LoadEvent =
  | { readonly type: 'begun'; readonly rows: number }
  | { readonly type: 'loading'; readonly table: string; readonly rows: number; readonly of: number }
  | { readonly type: 'done' | 'failed' };

/** Follows a restore to its end, with its progress shown. Ctrl-C ends it, and with it what was done of it. */
export async function follow<E extends LoadEvent>(
  begin: (signal: AbortSignal) => AsyncIterable<E>,
): Promise<Extract<E, { readonly type: 'done' }> | undefined> {
  const abort = new AbortController();
  const stop = (): void => abort.abort();
  process.once('SIGINT', stop);
  const progress = new Progress();
  const done = new Map<string, number>();
  let all = 0;
  try {
    for await (const event of begin(abort.signal)) {
      if (event.type === 'done') return event as Extract<E, { readonly type: 'done' }>;
      if (event.type === 'begun') all = event.rows;
      if (event.type !== 'loading') continue;
      done.set(event.table, event.rows);
      const rows = [...done.values()].reduce((sum, count) => sum + count, 0);
      progress.update(rows < all ? say(BACKUP.loading, { done: rows, rows: all }) : BACKUP.finishing);
    }
  } finally {
    progress.end();
    process.off('SIGINT', stop);
  }
  return undefined;
}

const LOST = {
  'second-factor': BACKUP.lostFactor,
  'host-access': BACKUP.lostAccess,
  webhook: BACKUP.lostWebhook,
} as const;

/** What has to be given again. */
export function reportLost(lost: readonly LostSecret[]): void {
  if (lost.length === 0) return;
  printProse(colour.yellow(BACKUP.lost));
  for (const { kind, name, site } of lost) print(say(LOST[kind], { name, site: site ?? '' }));
}

/** The moment that a backup is of, with the zone that it is told in. */
export function momentOf({ madeAt }: Pick<BackupManifest, 'madeAt'>): string {
  return `${madeAt.slice(0, 16).replace('T', ' ')} UTC`;
}
