import { join } from 'node:path';
import { createLog, databaseName, listen } from '@pragmatica/runtime';
import type { Logger } from 'pino';
import { createMetrics, type Metrics } from '../metrics.js';
import { createGateway } from '../page/gateway.js';
import { ReleaseFeed } from '../releases/release-feed.js';
import { ReleaseFiles } from '../releases/release-files.js';
import { ReleaseTable } from '../releases/release-table.js';
import { ReportCounter } from '../policy/report-counter.js';
import type { GatewaySettings } from '../settings.js';

/** How often what browsers report is handed on. */
export const REPORTED_EVERY_MS = 2_000;

/** One folder for each database, so that no gateway ever starts with the sites of another. */
export function releaseFiles(settings: GatewaySettings, databaseUrl: string): ReleaseFiles {
  return new ReleaseFiles(join(settings.PRAGMATICA_DATA, 'gateway', databaseName(databaseUrl)));
}

/** What gateways of one installation call themselves in `Via`: a request that one of them has sent comes back as a loop. */
export function pseudonymOf(databaseUrl: string): string {
  return `pragmatica-${databaseName(databaseUrl)}`;
}

/** A gateway as settings want it, over a table of releases. */
export function gatewayOf(
  settings: GatewaySettings,
  releases: ReleaseTable,
  log: Logger,
  metrics: Metrics,
  pseudonym: string,
  reports: ReportCounter,
): ReturnType<typeof createGateway> {
  return createGateway({
    releases,
    log,
    metrics,
    serverTiming: settings.PRAGMATICA_SERVER_TIMING,
    compress: settings.PRAGMATICA_COMPRESS,
    trustedProxies: settings.PRAGMATICA_TRUSTED_PROXIES,
    pseudonym,
    reports,
    origins: { caFile: settings.PRAGMATICA_ORIGIN_CA, healthPath: settings.PRAGMATICA_HEALTH_PATH },
  });
}

export interface RunningGateway {
  readonly port: number;
  /** In the Prometheus text format. */
  metrics(): Promise<string>;
  close(): Promise<void>;
}

/**
 * A gateway whole within this process: the same pieces as in its own process tree, joined by a call instead of a
 * channel. For tests, and for whoever wants one process.
 *
 * @throws FeedError when there is nothing to serve
 */
export async function openGateway(settings: GatewaySettings, databaseUrl: string): Promise<RunningGateway> {
  const log = createLog(settings.PRAGMATICA_LOG_LEVEL).child({ part: 'gateway' });
  const metrics = createMetrics();
  const files = releaseFiles(settings, databaseUrl);
  const table = new ReleaseTable(files, log);
  let using = Promise.resolve();
  const feed = new ReleaseFeed(databaseUrl, log, files, (message) => {
    using = table.use(message);
  });
  await feed.start();
  await using;
  const reports = new ReportCounter();
  const handing = setInterval(() => void feed.report(reports.take()), REPORTED_EVERY_MS);
  const gateway = gatewayOf(settings, table, log, metrics, pseudonymOf(databaseUrl), reports);
  return {
    port: await listen(gateway.server, settings.PRAGMATICA_GATEWAY_PORT, settings.PRAGMATICA_HOST),
    metrics: () => metrics.gateway.metrics(),
    async close() {
      clearInterval(handing);
      await gateway.close();
      await feed.close();
    },
  };
}
