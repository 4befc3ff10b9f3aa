import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

/** Ids of the processes that a process has started. */
export function childrenOf(pid: number): number[] {
  try {
    return execFileSync('ps', ['-o', 'pid=', '--ppid', String(pid)], { encoding: 'utf8' })
      .trim()
      .split(/\s+/)
      .map(Number);
  } catch {
    return [];
  }
}

/** A process and all below it. */
export function treeOf(pid: number): number[] {
  return [pid, ...childrenOf(pid).flatMap(treeOf)];
}

/** Whether a process is still there; one that has ended and waits to be counted is not. */
export function isRunning(pid: number): boolean {
  try {
    return !/\) Z /.test(readFileSync(`/proc/${pid}/stat`, 'utf8'));
  } catch {
    return false;
  }
}

/** Signals a process that may have ended by itself. */
export function signal(pid: number, name: NodeJS.Signals): void {
  try {
    process.kill(pid, name);
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'ESRCH')) throw error;
  }
}
