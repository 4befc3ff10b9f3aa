import { createHash } from 'node:crypto';
import { join } from 'node:path';
import type { MikroORM } from '@mikro-orm/postgresql';
import type { Logger } from 'pino';
import type { Metrics } from '../metrics.js';
import type { Settings } from '../settings.js';
import { createGateway } from './gateway.js';
import { ReleaseFile } from './release-file.js';
import { ReleaseTable } from './release-table.js';

export interface RunningGateway {
  readonly gateway: ReturnType<typeof createGateway>;
  readonly releases: ReleaseTable;
  close(): Promise<void>;
}

/** Loads the releases and makes a gateway that serves them. @throws when there are none to load, not even on disk */
export async function openGateway(
  settings: Settings,
  databaseUrl: string,
  orm: MikroORM,
  log: Logger,
  metrics: Metrics,
): Promise<RunningGateway> {
  const releases = new ReleaseTable(orm, databaseUrl, log, releaseFile(settings, databaseUrl));
  await releases.start();
  const gateway = createGateway({
    releases,
    log,
    metrics,
    serverTiming: settings.PRAGMATICA_SERVER_TIMING,
    origins: { caFile: settings.PRAGMATICA_ORIGIN_CA, healthPath: settings.PRAGMATICA_HEALTH_PATH },
  });
  return {
    gateway,
    releases,
    async close() {
      await gateway.close();
      await releases.close();
    },
  };
}

/** One file for each database, so that no gateway ever starts with the sites of another. */
export function releaseFile(settings: Settings, databaseUrl: string): ReleaseFile {
  const { host, pathname } = new URL(databaseUrl);
  const name = createHash('sha256')
    .update(host + pathname)
    .digest('hex')
    .slice(0, 12);
  return new ReleaseFile(join(settings.PRAGMATICA_DATA, 'gateway', `releases-${name}.json`));
}
