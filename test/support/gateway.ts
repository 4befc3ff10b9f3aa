import type { Server } from 'node:http';
import { createConnection } from 'node:net';
import type { Transfer } from '@pragmatica/contract';
import { ReleasePlanner, type Snapshot } from '@pragmatica/core';
import { createGateway, createMetrics, type GatewayOptions } from '@pragmatica/gateway';
import { pino } from 'pino';
import { send, type RawAnswer } from './http.js';
import { part, set, snippet } from './sets.js';
import { listen } from './stage.js';

export const HOST = 'mill.localhost';
export const CODE = '<script>chat()</script>';
const SET = set(snippet('chat', { parts: [part('body-end', 0, CODE)] }));

export interface StartedGateway {
  readonly port: number;
  readonly metrics: ReturnType<typeof createMetrics>;
  readonly lines: string[];
  readonly ask: (request?: Partial<Parameters<typeof send>[0]>) => Promise<RawAnswer>;
  /** Sends text as it is, and gives back all that comes until the connection closes or `until` is in it. */
  readonly raw: (text: string, until?: RegExp) => Promise<string>;
  close(): Promise<void>;
}

/** A gateway in front of origins that a test makes itself. Origins are servers or addresses. */
export async function startGateway(
  origins: readonly (Server | string)[],
  {
    snapshot = SET,
    transfer,
    ...options
  }: Partial<GatewayOptions> & { snapshot?: Snapshot; transfer?: Transfer } = {},
): Promise<StartedGateway> {
  const started = await Promise.all(
    origins.map(async (origin) => (typeof origin === 'string' ? undefined : await listen(origin))),
  );
  const addresses = origins.map((origin, i) =>
    typeof origin === 'string' ? origin : `http://127.0.0.1:${started[i]!.port}`,
  );
  const metrics = createMetrics();
  const lines: string[] = [];
  const release = {
    number: 7,
    digest: 'ab'.repeat(32),
    planner: new ReleasePlanner(snapshot),
  };
  const gateway = createGateway({
    releases: {
      find: (host) =>
        host === HOST
          ? { host, site: 'mill', environment: 'live', origins: addresses, transfer, release }
          : undefined,
    },
    log: pino({ level: 'debug' }, { write: (line: string) => lines.push(line) }),
    metrics,
    drainMs: 200,
    ...options,
  });
  const { port } = await listen(gateway.server);
  return {
    port,
    metrics,
    lines,
    ask: (request = {}) => send({ port, host: HOST, ...request }),
    raw: (text, until) =>
      new Promise((resolve, reject) => {
        let got = '';
        const socket = createConnection(port, '127.0.0.1', () => socket.write(text));
        socket.on('data', (data) => {
          got += data.toString('latin1');
          if (until?.test(got)) socket.destroy();
        });
        socket.on('error', reject);
        socket.on('close', () => resolve(got));
      }),
    async close() {
      for (const origin of started) {
        origin?.server.closeAllConnections();
        origin?.server.close();
      }
      await gateway.close();
    },
  };
}
