import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { startWays } from './start-ways.js';

/** The demo’s hosts of other ways as a process. Ends with whoever started it. */
const read = (name: string): string => {
  const value = process.env[name];
  if (value === undefined || value === '') throw new Error(`${name} is missing.`);
  return value;
};

/** Shorter than a token of the set-up lives. */
const TOKEN_MS = 45 * 60_000;

try {
  const makeToken = promisify(execFile);
  const ways = await startWays({
    server: read('PRAGMATICA_SERVER'),
    token: async () => (await makeToken(process.execPath, [read('PRAGMATICA_TOKEN_PROGRAM')])).stdout.trim(),
    tokenMs: TOKEN_MS,
    providerPort: Number(read('PRAGMATICA_DEMO_PROVIDER_PORT')),
    gatewayPort: Number(read('PRAGMATICA_GATEWAY_PORT')),
    nodePort: Number(read('PRAGMATICA_DEMO_NODE_PORT')),
    nginxPort: Number(read('PRAGMATICA_DEMO_NGINX_PORT')),
    folder: read('PRAGMATICA_DEMO_FOLDER'),
    nginx: process.env['PRAGMATICA_NGINX'] || undefined,
    commandLine: read('PRAGMATICA_COMMAND_LINE'),
  });
  const stop = (): void => {
    void ways.close().finally(() => process.exit(0));
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const) process.on(signal, stop);
  process.send?.({ ready: true });
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
