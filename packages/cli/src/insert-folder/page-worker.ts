import { parentPort, workerData } from 'node:worker_threads';
import { insertPages, type PageJob, type PageWork } from './insert-pages.js';

/** A thread that writes some of a folder's pages. */
const { jobs, work } = workerData as { readonly jobs: readonly PageJob[]; readonly work: PageWork };
parentPort!.postMessage(insertPages(jobs, work));
