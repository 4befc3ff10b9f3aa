import { once } from 'node:events';
import { PassThrough } from 'node:stream';
import { readBackup, type BackupManifest } from '@pragmatica/backup';

export interface Watching {
  manifest?: BackupManifest;
  onRows(table: string, done: number): void;
}

/**
 * The same bytes, read on their way: whoever takes them hears how far they are, and that they are not whole.
 *
 * @throws BackupError after the last byte, where they are not a whole backup
 */
export async function* watched(
  bytes: AsyncIterable<Uint8Array>,
  watching: Watching,
): AsyncGenerator<Uint8Array> {
  const side = new PassThrough();
  const reading = read(side, watching);
  // It is told at the end, or by whoever waits for it.
  reading.catch(() => side.destroy());
  try {
    for await (const chunk of bytes) {
      if (!side.destroyed && !side.write(chunk)) await Promise.race([once(side, 'drain'), reading]);
      yield chunk;
    }
    side.end();
    await reading;
  } finally {
    side.destroy();
  }
}

async function read(bytes: AsyncIterable<Uint8Array>, watching: Watching): Promise<void> {
  for await (const item of readBackup(bytes)) {
    if (item.type === 'manifest') watching.manifest = item.manifest;
    else if (item.type === 'rows') watching.onRows(item.table.name, item.done);
  }
}
