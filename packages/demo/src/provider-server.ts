import { createServer, type Server } from 'node:http';
import {
  MISBEHAVIOURS,
  failInstead,
  misbehaving,
  readMisbehaviours,
  type Misbehaviour,
} from './misbehave.js';
import { providers } from './providers/index.js';

export interface Received {
  readonly provider: string;
  readonly at: string;
  readonly account: string;
  readonly event: string;
  readonly page: string;
}

/** What is kept of what the stand-ins received. */
const MEMORY = 2_000;

/**
 * One server for all stand-ins, told apart by host. `/received` on any of them lists what it was told; `POST /misbehave?how=slow`
 * lets one fail, and `how=` lets it behave again.
 */
export function createProviderServer(): Server {
  const received: Received[] = [];
  const misbehaviour = new Map<string, readonly Misbehaviour[]>();
  return createServer((request, response) => {
    const host = request.headers.host ?? '';
    const url = new URL(request.url ?? '/', `http://${host || 'provider.invalid'}`);
    const provider = providers.find((entry) => host.startsWith(`${entry.key}.`));
    response.setHeader('access-control-allow-origin', '*');
    response.setHeader('cache-control', 'no-store');
    if (url.pathname === '/received') {
      const relevant = provider ? received.filter((entry) => entry.provider === provider.key) : received;
      response.setHeader('content-type', 'application/json').end(JSON.stringify(relevant, null, 1));
      return;
    }
    if (!provider) {
      response.setHeader('content-type', 'text/plain; charset=utf-8').end(overview(received));
      return;
    }
    if (url.pathname === '/misbehave') {
      if (request.method === 'POST')
        misbehaviour.set(provider.key, readMisbehaviours(url.searchParams.get('how') ?? ''));
      const how = misbehaviour.get(provider.key) ?? [];
      response
        .setHeader('content-type', 'application/json')
        .end(JSON.stringify({ how, known: MISBEHAVIOURS }));
      return;
    }
    if (url.pathname === '/tell') {
      const { account = '', event = '', page = '' } = Object.fromEntries(url.searchParams);
      received.push({ provider: provider.key, at: new Date().toISOString(), account, event, page });
      if (received.length > MEMORY) received.shift();
      response.writeHead(204).end();
      return;
    }
    const file = provider.files[url.pathname];
    if (!file) {
      response
        .writeHead(404, { 'content-type': 'text/plain' })
        .end(`${provider.name} has no ${url.pathname}.\n`);
      return;
    }
    const how = misbehaviour.get(provider.key) ?? [];
    const origin = `http://${host}`;
    const isScript = url.pathname.endsWith('.js');
    const answer = (): void => {
      const source = file(origin);
      response
        .setHeader('content-type', isScript ? 'text/javascript' : 'text/html')
        .end(isScript ? misbehaving(source, how, provider.key, origin) : source);
    };
    if (!failInstead(how, response, answer)) answer();
  });
}

function overview(received: readonly Received[]): string {
  const lines = providers.map((provider) => {
    const own = received.filter((entry) => entry.provider === provider.key);
    const last = own.at(-1);
    const news = last
      ? `${own.length} received, last "${last.event}" from ${last.page} at ${last.at}`
      : 'nothing received yet';
    return `${provider.name.padEnd(12)} ${provider.does.padEnd(46)} ${news}`;
  });
  return `The demo’s stand-in providers, and what they received\n\n${lines.join('\n')}\n\nAll of it as JSON: /received\n`;
}
