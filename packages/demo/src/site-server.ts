import { createHash } from 'node:crypto';
import { createServer, type Server, type ServerResponse } from 'node:http';
import { gzipSync } from 'node:zlib';
import { sisterPage, sisterPaths } from './sister-sites.js';
import { WAYS_SITE, wayHost } from './ways/hosts.js';
import { loadPages, readAsset, type DemoPage } from './site-pages.js';

/** Hosts whose pages have nothing of ours but the one line, as in the head box of a site builder; each in a form. */
const LINE_HOSTS: Readonly<Record<string, { readonly start: string; readonly site: string }>> = {
  'line.skerrywick.localhost': { start: '<script', site: 'skerrywick' },
  'async-line.skerrywick.localhost': { start: '<script async', site: 'skerrywick' },
  [wayHost('line')]: { start: '<script', site: WAYS_SITE },
  [wayHost('async-line')]: { start: '<script async', site: WAYS_SITE },
};

/**
 * Skerrywick Ferries' own web server: what the gateway stands in front of.
 *
 * @param gatewayPort - where the one line is loaded from, asked for each page
 */
export function createSiteServer(providerPort: number, gatewayPort?: () => number): Server {
  const pages = loadPages(providerPort);
  return createServer((request, response) => {
    const url = new URL(request.url ?? '/', 'http://origin.invalid');
    const path = url.pathname.length > 1 ? url.pathname.replace(/\/$/, '') : '/';
    const host = String(request.headers['x-forwarded-host'] ?? request.headers.host).replace(/:\d+$/, '');
    const sisters = sisterPaths(host);
    const page = sisters ? undefined : pages.get(path);
    const sister = sisterPage(host, path);
    if (request.method !== 'GET' && request.method !== 'HEAD')
      send(response, 405, 'text/plain', 'Only GET and HEAD.');
    else if (sister !== undefined) send(response, 200, 'text/html; charset=utf-8', sister);
    else if (page) sendPage(response, boxed(page, host, gatewayPort), request.headers['if-none-match']);
    else if (path === '/assets/site.css') send(response, 200, 'text/css', readAsset('site.css'));
    else if (path === '/sitemap.xml')
      send(
        response,
        200,
        'application/xml',
        sitemap(
          sisters ?? [...pages.keys()],
          String(request.headers['x-forwarded-host'] ?? request.headers.host),
        ),
      );
    else if (path === '/robots.txt')
      send(response, 200, 'text/plain', 'User-agent: *\nAllow: /\nSitemap: /sitemap.xml\n');
    else send(response, 404, 'text/html; charset=utf-8', notFound(path));
  });
}

/** The page as a site builder makes it: what is in the box stands at the start of the head. */
function boxed(page: DemoPage, host: string, gatewayPort: (() => number) | undefined): DemoPage {
  const boxed = LINE_HOSTS[host];
  if (!boxed || !gatewayPort) return page;
  const line = `${boxed.start} src="http://gateway.localhost:${gatewayPort()}/one/${boxed.site}.js"></script>`;
  const html = page.body.toString('latin1').replace(/<head>|<meta charset[^>]*>/i, `$&${line}`);
  return { ...page, body: Buffer.from(html, 'latin1') };
}

function sendPage(response: ServerResponse, page: DemoPage, condition: string | undefined): void {
  const body = page.isCompressed ? gzipSync(page.body) : page.body;
  const tag = `"${createHash('sha256').update(page.body).digest('hex').slice(0, 16)}"`;
  const headers = { ...page.headers, etag: tag, 'cache-control': 'no-cache' };
  if (condition?.split(',').some((entry) => entry.trim().replace(/^W\//, '') === tag)) {
    response.writeHead(304, headers).end();
    return;
  }
  const coding = page.isCompressed ? { 'content-encoding': 'gzip' } : {};
  response.writeHead(200, { ...headers, ...coding, 'content-length': body.length }).end(body);
}

function send(response: ServerResponse, status: number, type: string, body: string | Buffer): void {
  response.writeHead(status, { 'content-type': type, 'content-length': Buffer.byteLength(body) }).end(body);
}

/** The sitemaps.org protocol. */
function sitemap(paths: readonly string[], host: string): string {
  const urls = paths.map((path) => `  <url><loc>http://${host}${path}</loc></url>`);
  return `<?xml version="1.0" encoding="UTF-8"?>\n<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n${urls.join('\n')}\n</urlset>\n`;
}

function notFound(path: string): string {
  const shown = path.replace(/[&<>"]/g, (character) => `&#${character.charCodeAt(0)};`);
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Not found · Skerrywick Ferries</title><link rel="stylesheet" href="/assets/site.css"></head><body><main class="wrap"><h1>That page has sailed</h1><p>There is nothing at ${shown}. <a href="/">Back to the quay</a></p></main></body></html>`;
}
