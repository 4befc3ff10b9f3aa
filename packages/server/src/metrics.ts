import { Gauge, Registry, collectDefaultMetrics } from 'prom-client';

/** What is asked of the database when somebody reads the metrics. */
export interface Measured {
  readonly workers: number;
  readonly gateways: number;
  readonly stuck: number;
  /** Undefined before the first backup. */
  readonly backupAgeSeconds: number | undefined;
  readonly hasBackupFailed: boolean;
}

/** By name: what it means, and what it is. One more is one more line, here and in docs/operations.md. */
const GAUGES: Readonly<
  Record<string, readonly [help: string, value: (measured: Measured) => number | undefined]>
> = {
  pragmatica_workers: ['Workers that are connected to the database', ({ workers }) => workers],
  pragmatica_gateways: ['Connections of gateways to the database', ({ gateways }) => gateways],
  pragmatica_jobs_stuck: [
    'Surveys and rounds of visits that have waited for a worker for more than ten minutes',
    ({ stuck }) => stuck,
  ],
  pragmatica_backup_age_seconds: ['Age of the last backup', ({ backupAgeSeconds }) => backupAgeSeconds],
  pragmatica_backup_failed: [
    'Whether the newest try to make a backup failed',
    ({ hasBackupFailed }) => Number(hasBackupFailed),
  ],
};

/** Metrics of the service in the Prometheus text format; a registry of its own, so that several can live in one process. */
export function createMetrics(measure: () => Promise<Measured>): Registry {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  // All of them are of one look.
  let looked: Promise<Measured> | undefined;
  const look = async (): Promise<Measured> => {
    looked ??= measure().finally(() => (looked = undefined));
    return looked;
  };
  for (const [name, [help, value]] of Object.entries(GAUGES))
    new Gauge({
      ...{ name, help },
      registers: [registry],
      async collect() {
        const measured = value(await look());
        if (measured === undefined) this.remove({});
        else this.set(measured);
      },
    });
  return registry;
}
