import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { SurveyInput, SurveyResource } from '@pragmatica/contract';
import { listen, type Stage } from './stage.js';

export type Answer = (request: IncomingMessage, response: ServerResponse) => void;

/** A site that a test makes itself: what it answers by path, and what it was asked. */
export interface OwnSite {
  readonly port: number;
  /** Paths that were asked for, in order, each with its headers. */
  readonly asked: {
    readonly path: string;
    readonly at: number;
    readonly headers: IncomingMessage['headers'];
  }[];
  /** How often a path was asked for. */
  count(path: string): number;
  close(): void;
}

/** @param pages - by path with search: HTML, or what answers; anything else is 404 */
export async function ownSite(pages: Readonly<Record<string, string | Answer>>): Promise<OwnSite> {
  const asked: OwnSite['asked'] = [];
  const { server, port } = await listen(
    createServer((request, response) => {
      const path = request.url ?? '/';
      asked.push({ path, at: Date.now(), headers: request.headers });
      const page = pages[path];
      if (typeof page === 'function') page(request, response);
      else if (page === undefined)
        response.writeHead(404, { 'content-type': 'text/html' }).end('<p>none</p>');
      else response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(page);
    }),
  );
  return {
    port,
    asked,
    count: (path) => asked.filter((one) => one.path === path).length,
    close: () => {
      server.closeAllConnections();
      server.close();
    },
  };
}

/** A page with links. */
export function linking(...links: string[]): string {
  return `<!DOCTYPE html><title>t</title><body>${links.map((href) => `<a href="${href}">x</a>`).join('')}</body>`;
}

/** Adds a site whose pages are asked at a port. */
export async function addSite(stage: Stage, key: string, port: number): Promise<void> {
  const address = `http://localhost:${port}`;
  const hosts = [{ host: `${key}.localhost`, environment: 'live' as const, origin: address, address }];
  await stage.client.call('createSite', { body: { key, name: key, hosts } });
}

/** Surveys a site and waits until it is over. */
export async function survey(stage: Stage, site: string, body: SurveyInput = {}): Promise<SurveyResource> {
  const { data } = await stage.client.call('startSurvey', { params: { site }, body });
  return finished(stage, site, data.number);
}

export async function finished(stage: Stage, site: string, number: number): Promise<SurveyResource> {
  let last: SurveyResource | undefined;
  for await (const event of stage.client.stream('watchSurvey', { params: { site, survey: number } }))
    last = event.survey;
  return last!;
}

/** Paths that a survey found, with what became of each. */
export async function outcomes(stage: Stage, site: string): Promise<Record<string, string | null>> {
  const { data } = await stage.client.call('listSurveyPages', {
    params: { site, survey: 'latest' },
    query: { limit: 200 },
  });
  return Object.fromEntries(data.items.map(({ path, outcome }) => [path, outcome]));
}
