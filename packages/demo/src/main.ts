import type { Server } from 'node:http';
import { createProviderServer } from './provider-server.js';
import { createSiteServer } from './site-server.js';

/** The demo's two servers as a process. Ends with whoever started it. */
const sitePort = Number(process.env['PRAGMATICA_DEMO_SITE_PORT'] ?? 4790);
const gatewayPort = Number(process.env['PRAGMATICA_GATEWAY_PORT'] ?? 4780);
const providerPort = Number(process.env['PRAGMATICA_DEMO_PROVIDER_PORT'] ?? 4791);

async function listen(server: Server, port: number): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
}

try {
  const servers = [createSiteServer(providerPort, () => gatewayPort), createProviderServer()] as const;
  await listen(servers[0], sitePort);
  await listen(servers[1], providerPort);
  const stop = (): void => {
    for (const server of servers) server.closeAllConnections();
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'disconnect'] as const) process.on(signal, stop);
  process.send?.({ ready: true });
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
