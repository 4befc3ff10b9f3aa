import { mkdirSync } from 'node:fs';
import type { Server } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { ReleaseFollower } from '@pragmatica/middleware';
import { loadPages } from '../site-pages.js';
import { waysApp } from './app.js';
import { startBound, type BoundProcess } from './bound-process.js';
import { WAYS_SITE, type WayPorts } from './hosts.js';
import { startNginx } from './nginx.js';
import { withIncludes, writePages } from './page-files.js';
import { pastedTexts } from './pasted.js';

export interface WaysOptions extends Pick<WayPorts, 'gatewayPort' | 'nodePort' | 'nginxPort'> {
  readonly server: string;
  /** A bearer token that is good for some time. */
  readonly token: () => Promise<string>;
  /** How long one is, in milliseconds. */
  readonly tokenMs: number;
  readonly providerPort: number;
  /** A folder for what the ways need. */
  readonly folder: string;
  /** The program of nginx; without it its two hosts are not there. */
  readonly nginx: string | undefined;
  /** The program of the command line. */
  readonly commandLine: string;
}

const ASSETS = join(dirname(fileURLToPath(import.meta.url)), '../../assets');

/** Serves the hosts of the ways that the gateway and the demo site’s own server do not: see `WAY_HOSTS`. */
export async function startWays(options: WaysOptions): Promise<{ close(): Promise<void> }> {
  const { server, folder, nginx, providerPort, nodePort, nginxPort } = options;
  const pages = loadPages(providerPort);
  mkdirSync(folder, { recursive: true });
  const [includes, plain, written] = ['includes', 'plain', 'written'].map((name) => join(folder, name)) as [
    string,
    string,
    string,
  ];
  writePages(includes, pages, withIncludes);
  writePages(plain, pages);
  let follower: ReleaseFollower | undefined;
  let inserting: BoundProcess | undefined;
  const renew = async (): Promise<string> => {
    const token = await options.token();
    const next = new ReleaseFollower({
      ...{ server, token, site: WAYS_SITE, fetch: localhostFetch },
      copy: join(folder, 'release.json'),
    });
    await next.start();
    follower?.close();
    follower = next;
    await inserting?.close();
    inserting = insertFolder(options, plain, written, token);
    return token;
  };
  const token = await renew();
  const renewing = setInterval(() => void renew().catch(() => undefined), options.tokenMs);
  const pasted = await pastedTexts(join(folder, 'pasted.json'), { server, token });
  const releases = {
    get release() {
      return follower?.release;
    },
  };
  const app = await listen(waysApp(pages, releases, pasted), nodePort);
  const line = await createClient({ server, token, fetch: localhostFetch }).call('showLine', {
    params: { site: WAYS_SITE },
    query: {},
  });
  const web =
    nginx === undefined
      ? undefined
      : startNginx({
          ...{ program: nginx, port: nginxPort, folder: join(folder, 'nginx'), pages, includes, written },
          assets: ASSETS,
          // nginx asks its own resolver, which need not know names below .localhost.
          fragments: line.data.fragments.nginx.replace(
            /proxy_pass \S+?\/fragments\//,
            `proxy_pass http://127.0.0.1:${options.gatewayPort}/fragments/`,
          ),
        });
  return {
    async close() {
      clearInterval(renewing);
      follower?.close();
      await inserting?.close();
      app.closeAllConnections();
      app.close();
      await web?.close();
    },
  };
}

/** The folder, as its owner would keep it up to date: by the command line, which watches what is served. */
function insertFolder(
  { server, commandLine }: WaysOptions,
  from: string,
  to: string,
  token: string,
): BoundProcess {
  const parameters = ['insert', from, '--out', to, '--clean-paths', '--watch'];
  return startBound(process.execPath, [commandLine, ...parameters], {
    ...process.env,
    PRAGMATICA_SERVER: server,
    PRAGMATICA_TOKEN: token,
    PRAGMATICA_SITE: WAYS_SITE,
  });
}

async function listen(app: ReturnType<typeof waysApp>, port: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = app.listen(port, '127.0.0.1', (error?: Error) => {
      if (error) reject(error);
      else resolve(server);
    });
  });
}
