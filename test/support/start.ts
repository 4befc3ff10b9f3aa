import { spawn, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { eventually } from './http.js';
import { listen } from './stage.js';

const SCRIPT = fileURLToPath(new URL('../../scripts/start.mjs', import.meta.url));

const PORTS = [
  'PRAGMATICA_PORT',
  'PRAGMATICA_PREVIEW_PORT',
  'PRAGMATICA_GATEWAY_PORT',
  'PRAGMATICA_GATEWAY_STATUS_PORT',
  'PRAGMATICA_DEMO_SITE_PORT',
  'PRAGMATICA_DEMO_PROVIDER_PORT',
  'PRAGMATICA_DEMO_NODE_PORT',
  'PRAGMATICA_DEMO_NGINX_PORT',
] as const;
export type Ports = Record<(typeof PORTS)[number], string>;

export interface Started {
  readonly child: ChildProcess;
  /** Everything written so far. */
  text(): string;
  readonly exited: Promise<number | null>;
}

export async function freePorts(): Promise<Ports> {
  const servers = await Promise.all(PORTS.map(() => listen(createServer())));
  for (const { server } of servers) server.close();
  return Object.fromEntries(PORTS.map((name, index) => [name, String(servers[index]!.port)])) as Ports;
}

/** What `npm start` runs, with these settings and no others. */
export function startPragmatica(env: Record<string, string>, ...args: string[]): Started {
  const inherited = Object.fromEntries(
    Object.entries(process.env).filter(([name]) => !/^(PRAGMATICA_|DATABASE_URL)/.test(name)),
  );
  const child = spawn(process.execPath, [SCRIPT, ...args], {
    env: { ...inherited, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let text = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => (text += String(data)));
  return { child, text: () => text, exited: new Promise((resolve) => child.once('exit', resolve)) };
}

export async function untilRunning(started: Started): Promise<void> {
  await eventually(() => expect(started.text()).to.include('Ctrl-C stops everything.'), 220_000);
}
