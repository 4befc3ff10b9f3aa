import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { WAY_HOSTS, seedWays, startWays, wayHost, type WayPorts } from '@pragmatica/demo';
import { expect } from 'chai';
import { freePort } from './free-port.js';
import { eventually, send } from './http.js';
import type { Stage } from './stage.js';

const COMMAND_LINE = fileURLToPath(new URL('../../packages/cli/bin/pragmatica.js', import.meta.url));

type Way = Parameters<typeof wayHost>[0];

/** The demo's hosts for all ways, beside a stage. */
export interface StartedWays {
  readonly folder: string;
  portOf(delivery: Way): number;
  /** Scheme, host and port of a way's pages. */
  addressOf(delivery: Way): string;
  close(): Promise<void>;
}

/** Starts them on free ports, and waits until all of them answer. */
export async function startStageWays(stage: Stage): Promise<StartedWays> {
  const { gatewayPort, sitePort, providerPort, server, token } = stage;
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-ways-'));
  const ports: WayPorts = { gatewayPort, sitePort, nodePort: await freePort(), nginxPort: await freePort() };
  expect(await seedWays({ ...ports, server, token })).to.equal(true);
  expect(await seedWays({ ...ports, server, token })).to.equal(false);
  const ways = await startWays({
    ...{ ...ports, server, providerPort, folder },
    token: () => Promise.resolve(token),
    tokenMs: 3_600_000,
    nginx: process.env['PRAGMATICA_NGINX'] ?? '/usr/sbin/nginx',
    commandLine: COMMAND_LINE,
  });
  const portOf = (delivery: Way): number => ports[WAY_HOSTS.find((one) => one.delivery === delivery)!.port];
  await eventually(() => expect(existsSync(join(folder, 'written', 'fares.html'))).to.equal(true), 20_000);
  for (const { host, delivery } of WAY_HOSTS)
    await eventually(async () => {
      const answer = await send({ port: portOf(delivery), host, path: '/fares' });
      expect(answer.status, delivery).to.equal(200);
    }, 20_000);
  return {
    folder,
    portOf,
    addressOf: (delivery) => `http://${wayHost(delivery)}:${portOf(delivery)}`,
    async close() {
      await ways.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
