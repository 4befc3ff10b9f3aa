import cluster, { type Address, type Worker } from 'node:cluster';
import { fileURLToPath } from 'node:url';
import type { Logger } from 'pino';
import { collectMetrics } from './collect-metrics.js';
import type { CountedReport } from '../policy/report-counter.js';
import { WANTS_STATE, type StateMessage } from '../releases/state.js';

/** So long a worker that died is waited for before the next one. */
const RESTART_MS = 500;
const STOP_MS = 15_000;

/** What browsers reported to a process that serves. */
export interface ReportMessage {
  readonly reports: readonly CountedReport[];
}

export interface Workers {
  readonly port: number;
  /** Those that serve at the moment. */
  readonly serving: number;
  /** Hands a new state to all of them. */
  send(message: StateMessage): void;
  /** The gateway's metrics of all of them, in the Prometheus text format. */
  metrics(): Promise<string>;
  close(): Promise<void>;
}

/**
 * Starts the processes that serve, on one port. One that dies is replaced, and the others go on meanwhile.
 *
 * @param current - the state that a new one begins with
 * @param onReports - is given what browsers report
 * @throws when the first of them cannot start
 */
export async function startWorkers(
  count: number,
  log: Logger,
  current: () => StateMessage | undefined,
  onReports: (reports: readonly CountedReport[]) => void,
): Promise<Workers> {
  // They accept connections themselves: what the primary does, or whether it hangs, costs no visitor anything.
  cluster.schedulingPolicy = cluster.SCHED_NONE;
  cluster.setupPrimary({ exec: fileURLToPath(new URL('./worker.js', import.meta.url)), args: [] });
  let isStopping = false;
  const serving = new Set<Worker>();
  const start = (): Worker => {
    const worker = cluster.fork();
    worker.on('message', (message) => {
      const state = message === WANTS_STATE ? current() : undefined;
      if (state) worker.send(state);
      if (isReport(message)) onReports(message.reports);
    });
    worker.once('listening', () => serving.add(worker));
    worker.once('exit', (code, signal) => {
      serving.delete(worker);
      if (isStopping) return;
      log.error({ code, signal }, 'a gateway process has ended; another one is started');
      setTimeout(() => {
        if (!isStopping) start();
      }, RESTART_MS);
    });
    return worker;
  };
  const all = (): Worker[] => Object.values(cluster.workers ?? {}).filter((worker) => worker !== undefined);
  const ports = await Promise.all(
    Array.from(
      { length: count },
      () =>
        new Promise<number>((resolve, reject) => {
          const worker = start();
          worker.once('listening', (address: Address) => resolve(address.port));
          worker.once('exit', () => reject(new Error('a gateway process could not start; see above')));
        }),
    ),
  );
  return {
    port: ports[0]!,
    get serving() {
      return serving.size;
    },
    send(message) {
      for (const worker of all()) if (worker.isConnected()) worker.send(message);
    },
    metrics: () => collectMetrics([...serving]),
    async close() {
      isStopping = true;
      await Promise.all(
        all().map(
          (worker) =>
            new Promise<void>((resolve) => {
              const late = setTimeout(() => worker.process.kill('SIGKILL'), STOP_MS);
              worker.once('exit', () => {
                clearTimeout(late);
                resolve();
              });
              worker.process.kill('SIGTERM');
            }),
        ),
      );
    },
  };
}

function isReport(message: unknown): message is ReportMessage {
  return typeof message === 'object' && message !== null && 'reports' in message;
}
