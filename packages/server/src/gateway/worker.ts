import { AggregatorRegistry } from 'prom-client';
import { createLog, listen } from '../process.js';
import { createMetrics } from '../metrics.js';
import { readSettings } from '../settings.js';
import { prepareDatabase } from '../storage/orm.js';
import { openGateway } from './gateway-process.js';

/** A gateway as a process of its own, one of several on the same port. Started by the service through `node:cluster`. */
async function main(): Promise<void> {
  const settings = readSettings(process.env);
  const databaseUrl = settings.DATABASE_URL!;
  const log = createLog(settings).child({ part: 'gateway' });
  const metrics = createMetrics();
  AggregatorRegistry.setRegistries(metrics.gateway);
  // What answers the service's question for the metrics.
  new AggregatorRegistry();
  const orm = await prepareDatabase(databaseUrl);
  const running = await openGateway(settings, databaseUrl, orm, log, metrics);
  await listen(running.gateway.server, settings.PRAGMATICA_GATEWAY_PORT, settings.PRAGMATICA_HOST);
  let isStopping = false;
  const stop = (): void => {
    if (isStopping) return;
    isStopping = true;
    void running
      .close()
      .then(() => orm.close(true))
      .finally(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  // Ctrl-C reaches all processes of a terminal; the service says when to stop.
  process.on('SIGINT', () => undefined);
  process.on('disconnect', stop);
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
