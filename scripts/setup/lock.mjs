import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SetupError } from './setup-error.mjs';

/** Lets one start at a time use a data folder. @returns {() => void} gives it free again */
export function lockDataFolder(data) {
  const file = join(data, 'start.pid');
  if (existsSync(file)) {
    const pid = Number(readFileSync(file, 'utf8'));
    if (pid !== process.pid && isStart(pid)) {
      throw new SetupError(
        `Pragmatica is already running from this folder (process ${pid}). Stop it there with Ctrl-C, or use another folder with PRAGMATICA_DATA.`,
      );
    }
  }
  writeFileSync(file, String(process.pid));
  return () => rmSync(file, { force: true });
}

/** Whether a process is a start of ours, and not a stranger that got the number of a dead one. */
function isStart(pid) {
  try {
    process.kill(pid, 0);
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs');
  } catch {
    return false;
  }
}
