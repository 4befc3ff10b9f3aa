import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { InsertOutcome } from '@pragmatica/core';
import { insertPages, type PageJob, type PageWork } from './insert-pages.js';

/** A thread takes as long to begin as it takes to write so many pages. */
const WORTH_A_THREAD = 400;
const MAX_THREADS = 8;

/** Writes pages on as many cores as are worth it. @returns what became of the parts, page by page */
export async function insertOnCores(
  jobs: readonly PageJob[],
  work: PageWork,
  onPage?: (done: number, file: string) => void,
  cores = availableParallelism(),
): Promise<(readonly InsertOutcome[])[]> {
  const worker = workerFile();
  const threads =
    worker === undefined
      ? 1
      : Math.max(1, Math.min(cores, MAX_THREADS, Math.floor(jobs.length / WORTH_A_THREAD)));
  // In turns: folders differ in how large their pages are.
  const shares = Array.from({ length: threads }, (_, thread) =>
    jobs.filter((_job, index) => index % threads === thread),
  );
  const others = shares.slice(1).map((share) => inThread(worker!, share, work));
  // What fails in a thread is told when it is waited for.
  for (const other of others) other.catch(() => undefined);
  const own = insertPages(shares[0]!, work, (done, file) =>
    onPage?.(Math.min(done * threads, jobs.length), file),
  );
  const outcomes = [own, ...(await Promise.all(others))];
  return jobs.map((_, index) => outcomes[index % threads]![Math.floor(index / threads)]!);
}

function inThread(
  file: string,
  jobs: readonly PageJob[],
  work: PageWork,
): Promise<(readonly InsertOutcome[])[]> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(file, { workerData: { jobs, work } });
    worker.once('message', resolve);
    worker.once('error', reject);
    worker.once('exit', (code) => reject(new Error(String(code))));
  });
}

/** Beside this file, or below the command line that was put into one file. Undefined where nothing was built. */
function workerFile(): string | undefined {
  return ['./page-worker.js', './insert-folder/page-worker.js']
    .map((path) => fileURLToPath(new URL(path, import.meta.url)))
    .find((path) => existsSync(path));
}
