import { planBackup } from '../site/copies/backup-plan.js';
import { makeWaitingBackup, type MakingTools } from '../site/copies/make-backup.js';
import type { Job } from './job.js';

const EVERY_MS = 2_000;

/** Makes backups when it is time and when somebody asks for one. */
export function makeBackupsJob(tools: MakingTools): Job {
  let hasSwept = false;
  return {
    name: 'make-backups',
    everyMs: EVERY_MS,
    async run(signal) {
      if (!hasSwept) await tools.folder.sweepParts();
      hasSwept = true;
      await planBackup(tools.store);
      while (!signal.aborted && (await makeWaitingBackup(tools, signal)));
    },
  };
}
