import { readFileSync, readlinkSync } from 'node:fs';

const NS_PER_MS = 1e6;

/** The system's number for the thread that asks; undefined where the system does not tell. */
export function ownThread(): number | undefined {
  try {
    const id = Number(readlinkSync('/proc/thread-self').split('/').at(-1));
    return Number.isInteger(id) && id > 0 ? id : undefined;
  } catch {
    return undefined;
  }
}

/**
 * How long a thread of this process has run on a processor so far, in milliseconds (Linux, `proc(5)`: `schedstat`):
 * what it has to wait for others, on a machine that is busy, does not count. Undefined where the system does not tell.
 */
export function threadTimeMs(thread: number): number | undefined {
  try {
    const [ran] = readFileSync(`/proc/self/task/${thread}/schedstat`, 'latin1').split(' ');
    const time = Number(ran) / NS_PER_MS;
    return Number.isFinite(time) && time > 0 ? time : undefined;
  } catch {
    return undefined;
  }
}
