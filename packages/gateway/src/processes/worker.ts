import '../speak-first.js';
import { createLog, listen, startProblem } from '@pragmatica/runtime';
import { createMetrics } from '../metrics.js';
import { ReleaseTable } from '../releases/release-table.js';
import { WANTS_STATE, type StateMessage } from '../releases/state.js';
import { readGatewaySettings } from '../settings.js';
import { offerMetrics } from './collect-metrics.js';
import { ReportCounter } from '../policy/report-counter.js';
import { REPORTED_EVERY_MS, gatewayOf, pseudonymOf, releaseFiles } from './open-gateway.js';
import type { ReportMessage } from './workers.js';

/**
 * One of the processes that serve visitors, started through `node:cluster`. It holds the page path and nothing else: no
 * database, no API. What to serve comes from the primary; without it, what there is goes on being served.
 */
async function main(): Promise<void> {
  const settings = readGatewaySettings(process.env);
  const log = createLog(settings.PRAGMATICA_LOG_LEVEL).child({ part: 'gateway' });
  const metrics = createMetrics();
  offerMetrics(metrics.gateway);
  const table = new ReleaseTable(releaseFiles(settings, settings.DATABASE_URL!), log);
  await new Promise<void>((resolve) => {
    process.on('message', (message) => {
      if (isState(message)) void table.use(message).then(resolve);
    });
    // Asked for, as what is sent before anybody listens is lost.
    process.send!(WANTS_STATE);
  });
  const reports = new ReportCounter();
  setInterval(() => {
    const counted = reports.take();
    if (counted.length > 0 && process.connected) process.send!({ reports: counted } satisfies ReportMessage);
  }, REPORTED_EVERY_MS).unref();
  const gateway = gatewayOf(settings, table, log, metrics, pseudonymOf(settings.DATABASE_URL!), reports);
  await listen(gateway.server, settings.PRAGMATICA_GATEWAY_PORT, settings.PRAGMATICA_HOST);
  process.on('SIGTERM', () => void gateway.close().finally(() => process.exit(0)));
  // Ctrl-C reaches all processes of a terminal; the primary says when to stop.
  process.on('SIGINT', () => undefined);
}

/** The channel also carries questions for metrics. */
function isState(message: unknown): message is StateMessage {
  return typeof message === 'object' && message !== null && 'state' in message && 'texts' in message;
}

main().catch((error: unknown) => {
  console.error(startProblem(error));
  process.exit(1);
});
