import type { Command } from 'commander';
import { BACKUP } from '../../texts/backup.js';
import { bringBack } from './bring-back.js';
import { check } from './check.js';
import { make } from './make.js';
import { newKey } from './new-key.js';
import { fetchOne } from './fetch-one.js';
import { list } from './list.js';
import { now } from './now.js';
import { plan } from './plan.js';
import { removeOne } from './remove-one.js';
import { showOne } from './show-one.js';
import { restoreAll } from './restore-all.js';

/** Copies of the whole installation. */
export function backup(program: Command): void {
  const group = program.command('backup').description(BACKUP.group).addHelpText('after', BACKUP.examples);
  for (const register of [
    make,
    check,
    restoreAll,
    bringBack,
    newKey,
    plan,
    list,
    showOne,
    now,
    fetchOne,
    removeOne,
  ])
    register(group);
}
