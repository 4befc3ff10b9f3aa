import { createServer, type RequestListener, type Server } from 'node:http';
import { expect } from 'chai';
import type { VerificationEvent } from '@pragmatica/contract';
import { api } from '../support/http.js';
import { listen, startStage, type Stage } from '../support/stage.js';

const CODE = '<script src="http://provider.test/a.js"></script>';
const PAGE = `<!doctype html><title>t</title><body><p>x</p>${CODE}</body>`;

describe('a site of its own', () => {
  let stage: Stage;
  let origin: Server;
  let serve: RequestListener;
  let address: string;
  const params = { site: 'mill' };

  before(async () => {
    stage = await startStage({ hasDemo: false });
    const started = await listen(createServer((request, response) => serve(request, response)));
    origin = started.server;
    address = `http://127.0.0.1:${started.port}`;
    // The address is the origin's own: what the origin sends is what a visitor gets here.
    await stage.client.call('createSite', {
      body: {
        key: 'mill',
        name: 'Mill',
        hosts: [{ host: 'mill.example', environment: 'live', origin: address, address }],
      },
    });
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'A', parts: [{ placement: 'body-end', code: CODE }] },
    });
  });
  after(async () => {
    origin.closeAllConnections();
    origin.close();
    await stage.close();
  });

  const pages = async () => (await stage.client.call('listPages', { params, query: {} })).data;
  const xml =
    (text: string): RequestListener =>
    (_request, response) =>
      response.writeHead(200, { 'content-type': 'application/xml' }).end(text);

  describe('has pages', () => {
    it('that its sitemap lists, each once, as paths', async () => {
      serve = xml(
        '<urlset><url><loc> http://mill.example/ </loc></url><url><loc>http://mill.example/a%20b?x=1</loc></url><url><loc>http://mill.example/</loc></url></urlset>',
      );
      expect(await pages()).to.deep.include({
        paths: ['/', '/a%20b'],
        source: 'sitemap',
        message: '2 pages from the site’s own list (/sitemap.xml).',
      });
    });

    it('that the sitemaps of an index list', async () => {
      serve = (request, response) => {
        const index =
          '<sitemapindex><sitemap><loc>http://mill.example/one.xml</loc></sitemap><sitemap><loc>http://mill.example/two.xml</loc></sitemap></sitemapindex>';
        const list = `<urlset><url><loc>http://mill.example${request.url!.replace('.xml', '')}</loc></url></urlset>`;
        response.end(request.url === '/sitemap.xml' ? index : list);
      };
      expect((await pages()).paths).to.deep.equal(['/one', '/two']);
    });

    const BROKEN: readonly [string, RequestListener, RegExp][] = [
      ['is missing', (_request, response) => response.writeHead(404).end(), /answered 404/],
      ['is empty', xml('<urlset></urlset>'), /is empty/],
      ['is no XML', xml('<urlset><url>'), /empty|could not be read/],
      ['cannot be had', (request) => request.socket.destroy(), /could not be read/],
    ];
    for (const [what, listener, message] of BROKEN) {
      it(`of which only the front page is assumed when the sitemap ${what}, and it says so`, async () => {
        serve = listener;
        const known = await pages();
        expect(known).to.deep.include({ paths: ['/'], source: 'assumed' });
        expect(known.message).to.match(message);
      });
    }
  });

  describe('is verified', () => {
    async function verify(paths: string[]): Promise<VerificationEvent[]> {
      const events: VerificationEvent[] = [];
      for await (const event of stage.client.stream('verify', { params, body: { paths } }))
        events.push(event);
      return events;
    }

    it('only when something was published', async () => {
      const answer = await api(stage.server, stage.token, 'POST', '/sites/mill/verifications', {});
      expect(answer.status).to.equal(404);
      expect(answer.json['detail']).to.include('Nothing was published to live yet');
      await stage.client.call('publish', {
        params,
        ifMatch: '*',
        body: { message: 'first', environments: ['live'] },
      });
      const staging = await api(stage.server, stage.token, 'POST', '/sites/mill/verifications', {
        environment: 'staging',
      });
      expect(staging.json['detail']).to.include('no staging host');
    });

    it('page by page in order, with what keeps a page from being checked', async () => {
      serve = (request, response) => {
        const answers: Record<string, () => unknown> = {
          '/': () => response.writeHead(200, { 'content-type': 'text/html' }).end(PAGE),
          '/without': () =>
            response.writeHead(200, { 'content-type': 'text/html' }).end(PAGE.replace(CODE, '')),
          '/moved': () => response.writeHead(301, { location: '/elsewhere' }).end(),
          '/broken': () => response.writeHead(500).end(),
          '/data': () => response.writeHead(200, { 'content-type': 'application/json' }).end('{}'),
          '/gone': () => request.socket.destroy(),
        };
        answers[request.url!]!();
      };
      const events = await verify(['/', '/without', '/moved', '/broken', '/data', '/gone']);
      expect(events[0]).to.deep.equal({
        ...{ type: 'start', total: 6, release: 1, address },
        ...{ host: 'mill.example', delivery: 'gateway' },
      });
      const found = events.flatMap((event) =>
        event.type === 'page'
          ? [[event.path, event.status, event.problem ?? event.parts.map((part) => part.state).join()]]
          : [],
      );
      expect(found.slice(0, 5)).to.deep.equal([
        ['/', 200, 'delivered'],
        ['/without', 200, 'missing'],
        ['/moved', 301, 'The page redirects to /elsewhere.'],
        ['/broken', 500, 'The site answered with the status 500.'],
        ['/data', 200, 'This is not an HTML page but application/json.'],
      ]);
      expect(found[5]!.slice(0, 2)).to.deep.equal(['/gone', null]);
      expect(events.at(-1)).to.deep.equal({
        type: 'done',
        counts: { pages: 6, unreachable: 4, parts: 2, delivered: 1 },
      });
    });

    it('until the client leaves: no further page is fetched', async () => {
      let asked = 0;
      serve = (_request, response) => {
        asked++;
        setTimeout(() => response.writeHead(200, { 'content-type': 'text/html' }).end(PAGE), 20);
      };
      const abort = new AbortController();
      const stream = stage.client.stream(
        'verify',
        { params, body: { paths: Array.from({ length: 200 }, (_, i) => `/${i}`) } },
        abort.signal,
      );
      let seen = 0;
      await (async () => {
        for await (const event of stream) {
          if (event.type === 'page' && ++seen === 3) abort.abort();
        }
      })().catch(() => undefined);
      // While so many calls are answered, a page that is still asked for would have come.
      for (let before = -1; asked !== before;) {
        before = asked;
        for (let i = 0; i < 20; i++) await stage.client.call('listSites', { query: {} });
      }
      expect(asked).to.be.lessThan(40);
    });
  });
});
