import { insertParts, type Releases } from '@pragmatica/middleware';
import express, { type Express, type Response } from 'express';
import { readAsset, type DemoPage } from '../site-pages.js';
import { wayHost } from './hosts.js';
import { withPasted, type PastedText } from './pasted.js';

/**
 * A Node.js server of somebody’s own with two hosts: one that puts parts into its pages with the middleware, and one that stands
 * for a site builder with boxes.
 */
export function waysApp(
  pages: ReadonlyMap<string, DemoPage>,
  releases: Releases,
  pasted: readonly PastedText[],
): Express {
  const app = express();
  const insert = insertParts(releases);
  app.use((request, response, next) => {
    if (request.hostname === wayHost('middleware')) insert(request, response, next);
    else next();
  });
  app.get('/assets/site.css', (_request, response) => void response.type('css').send(readAsset('site.css')));
  app.get(
    '/robots.txt',
    (_request, response) => void response.type('text').send('User-agent: *\nAllow: /\n'),
  );
  app.get('/sitemap.xml', (request, response) => {
    const urls = [...pages.keys()].map(
      (path) => `<url><loc>http://${request.headers.host!}${path}</loc></url>`,
    );
    response
      .type('application/xml')
      .send(
        `<?xml version="1.0" encoding="UTF-8"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${urls.join('')}</urlset>`,
      );
  });
  app.get('/{*path}', (request, response) => {
    const page = pages.get(request.path.length > 1 ? request.path.replace(/\/$/, '') : '/');
    if (!page)
      response
        .status(404)
        .type('html')
        .send('<!doctype html><title>Not found</title><h1>That page has sailed</h1>');
    else if (request.hostname !== wayHost('paste')) sendPage(response, page, page.body);
    else {
      const html = withPasted(page.body.toString('latin1'), page.path, latin1(pasted, page));
      sendPage(response, page, Buffer.from(html, 'latin1'));
    }
  });
  return app;
}

/** Texts in the bytes of a page, which is read byte by byte. */
function latin1(pasted: readonly PastedText[], { headers }: DemoPage): readonly PastedText[] {
  if (!headers['content-type']!.includes('utf-8')) return pasted;
  return pasted.map((one) => ({ ...one, text: Buffer.from(one.text).toString('latin1') }));
}

function sendPage(response: Response, { headers }: DemoPage, body: Buffer): void {
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
  response.setHeader('cache-control', 'no-cache');
  response.end(body);
}
