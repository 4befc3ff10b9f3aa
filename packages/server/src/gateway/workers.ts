import cluster, { type Address, type Worker } from 'node:cluster';
import { fileURLToPath } from 'node:url';
import type { Logger } from 'pino';
import { AggregatorRegistry } from 'prom-client';

/** So long a worker that died is waited for before the next one. */
const RESTART_MS = 500;
const STOP_MS = 15_000;

export interface Workers {
  readonly port: number;
  /** The gateway's metrics of all of them, in the Prometheus text format. */
  metrics(): Promise<string>;
  close(): Promise<void>;
}

/** Starts gateways in processes of their own on one port. One that dies is replaced. */
export async function startWorkers(count: number, log: Logger): Promise<Workers> {
  cluster.setupPrimary({ exec: fileURLToPath(new URL('./worker.js', import.meta.url)), args: [] });
  let isStopping = false;
  const aggregator = new AggregatorRegistry();
  const start = (): Worker => {
    const worker = cluster.fork();
    worker.once('exit', (code, signal) => {
      if (isStopping) return;
      log.error({ code, signal }, 'a gateway process has ended; another one is started');
      setTimeout(() => {
        if (!isStopping) start();
      }, RESTART_MS);
    });
    return worker;
  };
  const ports = await Promise.all(
    Array.from(
      { length: count },
      () =>
        new Promise<number>((resolve, reject) => {
          const worker = start();
          worker.once('listening', (address: Address) => resolve(address.port));
          worker.once('exit', () => reject(new Error('a gateway process could not start')));
        }),
    ),
  );
  return {
    port: ports[0]!,
    metrics: () => aggregator.clusterMetrics(),
    async close() {
      isStopping = true;
      const workers = Object.values(cluster.workers ?? {}).filter((worker) => worker !== undefined);
      await Promise.all(
        workers.map(
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
