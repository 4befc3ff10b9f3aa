import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { freePort } from './free-port.js';
import { eventually } from './http.js';

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
  const ports = new Set<number>();
  while (ports.size < PORTS.length) ports.add(await freePort());
  return Object.fromEntries(PORTS.map((name, index) => [name, String([...ports][index]!)])) as Ports;
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

/** Waits until everything runs; one that ends instead is told at once, with all that it said. */
export async function untilRunning(started: Started): Promise<void> {
  let hasEnded = false;
  void started.exited.then(() => (hasEnded = true));
  const isRunning = (): boolean => started.text().includes('Ctrl-C stops everything.');
  await eventually(() => expect(isRunning() || hasEnded, started.text()).to.equal(true), 220_000);
  expect(isRunning(), `ended instead of running:\n${started.text()}`).to.equal(true);
}
