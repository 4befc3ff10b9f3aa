import { createReadStream, existsSync } from 'node:fs';
import type { Command } from 'commander';
import { keysInFile, openBackup, writeTo, writeWhole, type WrittenBytes } from '@pragmatica/backup';
import { CliError, EXIT } from '../../errors.js';
import { BACKUP } from '../../texts/backup.js';
import { say } from '../../texts/say.js';
import { readTextFile } from '../../text-file.js';

export interface KeyOption {
  readonly key?: string;
}

/** Commands that read a backup take the key that opens it. */
export function withKey(command: Command): Command {
  return command.option('--key <file>', BACKUP.key);
}

/** A backup's tar archive, out of a file in any of its forms. @param file - `-` for standard input @throws CliError, BackupError */
export async function openFile(file: string, { key }: KeyOption): Promise<AsyncIterable<Uint8Array>> {
  const keys = key === undefined ? [] : keysInFile(readTextFile(key));
  if (file !== '-' && !existsSync(file)) throw new CliError(say(BACKUP.nothingThere, { file }), EXIT.usage);
  const source = file === '-' ? process.stdin : createReadStream(file);
  return openBackup(source as AsyncIterable<Uint8Array>, keys);
}

/** Writes a backup: whole, or not at all. @param file - `-` for standard output */
export async function writeFile(file: string, bytes: AsyncIterable<Uint8Array>): Promise<WrittenBytes> {
  return file === '-' ? writeTo(process.stdout, bytes, { mayEnd: false }) : writeWhole(file, bytes);
}

/** Values of an option that may be named more than once. */
export function collect(value: string, before?: string[]): string[] {
  return [...(before ?? []), value];
}
