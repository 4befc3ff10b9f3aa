import './speak-first.js';
import { SettingsError, createLog, listen, sayReady, startProblem, stopWith } from '@pragmatica/runtime';
import { releaseFiles } from './processes/open-gateway.js';
import { createStatusServer } from './processes/status-server.js';
import { startWorkers, type Workers } from './processes/workers.js';
import { FeedError, ReleaseFeed } from './releases/release-feed.js';
import { readGatewaySettings } from './settings.js';

const STATUS_HOST = '127.0.0.1';

/**
 * The gateway as a process tree of its own: this process follows the database and keeps releases on disk; the
 * processes below it serve visitors. Can be started alone, on another machine, with nothing but DATABASE_URL. With a
 * channel to it (as from `npm start`) it says there when it is ready, and stops when the channel closes.
 */
async function main(): Promise<void> {
  const settings = readGatewaySettings(process.env);
  const databaseUrl = settings.DATABASE_URL;
  if (databaseUrl === undefined)
    throw new SettingsError('DATABASE_URL is missing: the database that the service uses.');
  const log = createLog(settings.PRAGMATICA_LOG_LEVEL).child({ part: 'gateway' });
  const running: { workers?: Workers } = {};
  const feed = new ReleaseFeed(databaseUrl, log, releaseFiles(settings, databaseUrl), (message) =>
    running.workers?.send(message),
  );
  await feed.start();
  const workers = await startWorkers(
    settings.PRAGMATICA_GATEWAY_PROCESSES,
    log,
    () => feed.message,
    (reports) => void feed.report(reports),
  );
  running.workers = workers;
  // What came while they started.
  if (feed.message) workers.send(feed.message);
  const status = createStatusServer({
    serving: () => workers.serving,
    isConnected: () => feed.isConnected,
    metrics: () => workers.metrics(),
  });
  const statusPort = await listen(status, settings.PRAGMATICA_GATEWAY_STATUS_PORT, STATUS_HOST);
  stopWith(async () => {
    status.close();
    await workers.close();
    await feed.close();
    log.info('stopped');
  });
  log.info({ port: workers.port, statusPort }, 'started');
  sayReady({ gatewayPort: workers.port, statusPort });
}

main().catch((error: unknown) => {
  console.error(startProblem(error, SettingsError, FeedError));
  process.exit(1);
});
