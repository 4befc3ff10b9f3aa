import { createServer, type RequestListener, type ServerResponse } from 'node:http';
import {
  brotliCompressSync,
  brotliDecompressSync,
  deflateSync,
  gunzipSync,
  gzipSync,
  inflateSync,
} from 'node:zlib';
import { expect } from 'chai';
import { ReleasePlanner, type Snapshot } from '@pragmatica/core';
import { createGateway, createMetrics, type GatewayOptions } from '@pragmatica/gateway';
import { pino } from 'pino';
import { send, type RawAnswer } from '../support/http.js';
import { listen } from '../support/stage.js';
import { part, set, snippet } from '../support/sets.js';

const PAGE =
  '<!doctype html><html><head><meta charset="utf-8"><title>t</title></head><body><p>x</p></body></html>';
const CODE = '<script>chat()</script>';
const WITH_CODE = PAGE.replace('</body>', `${CODE}</body>`);
const HTML = { 'content-type': 'text/html; charset=utf-8' };
const SET = set(
  snippet('chat', { parts: [part('body-end', 0, CODE)], pages: { include: [], exclude: ['/plain'] } }),
);

/** A gateway in front of an origin that a test writes itself. */
async function withGateway(
  origin: RequestListener,
  test: (
    ask: (request?: Partial<Parameters<typeof send>[0]>) => Promise<RawAnswer>,
    metrics: ReturnType<typeof createMetrics>,
  ) => Promise<unknown>,
  options: {
    snapshot?: Snapshot;
    createInserter?: GatewayOptions['createInserter'];
    compress?: boolean;
  } = {},
): Promise<void> {
  const started = await listen(createServer(origin));
  const metrics = createMetrics();
  const planner = new ReleasePlanner(options.snapshot ?? SET);
  const gateway = createGateway({
    releases: {
      find: (host) =>
        host === 'mill.localhost'
          ? {
              host,
              site: 'mill',
              environment: 'live',
              origins: [`http://127.0.0.1:${started.port}`],
              release: { number: 7, digest: 'ab'.repeat(32), planner },
            }
          : undefined,
    },
    log: pino({ level: 'silent' }),
    metrics,
    ...options,
  });
  const { port } = await listen(gateway.server);
  try {
    await test((request = {}) => send({ port, host: 'mill.localhost', ...request }), metrics);
  } finally {
    started.server.closeAllConnections();
    started.server.close();
    await gateway.close();
  }
}

describe('the gateway', () => {
  it('puts the parts into HTML on the way through and says which release', () =>
    withGateway(
      (_request, response) =>
        response
          .writeHead(200, {
            ...HTML,
            'content-length': Buffer.byteLength(PAGE),
            'last-modified': 'x',
            'x-own': 'kept',
          })
          .end(PAGE),
      async (ask) => {
        const answer = await ask();
        expect(answer.text).to.equal(WITH_CODE);
        expect(answer.headers).to.include({ 'pragmatica-release': '7', 'x-own': 'kept' });
        expect(answer.headers).not.to.have.any.keys('last-modified');
        expect(answer.headers['content-length'], 'the new one').to.equal(String(WITH_CODE.length));
        expect(answer.headers['server-timing']).to.equal('pragmatica;desc="release 7"');
        expect(answer.headers['via']).to.equal('1.1 pragmatica');
      },
    ));

  const UNTOUCHED: readonly {
    what: string;
    path?: string;
    status?: number;
    headers: Record<string, string>;
    body?: Buffer;
  }[] = [
    { what: 'a style sheet', headers: { 'content-type': 'text/css' }, body: Buffer.from('</body>') },
    { what: 'a page that no snippet is for', path: '/plain', headers: HTML, body: Buffer.from(PAGE) },
    { what: 'HTML without a type', headers: {}, body: Buffer.from(PAGE) },
    {
      what: 'part of a page',
      status: 206,
      headers: { ...HTML, 'content-range': 'bytes 0-9/100' },
      body: Buffer.from(PAGE),
    },
    {
      what: 'a page that must not be changed',
      headers: { ...HTML, 'cache-control': 'no-transform' },
      body: Buffer.from(PAGE),
    },
    {
      what: 'a page in a coding that nobody knows',
      headers: { ...HTML, 'content-encoding': 'x-own' },
      body: Buffer.from('?'.repeat(40)),
    },
    {
      what: 'every possible byte',
      headers: { 'content-type': 'application/octet-stream' },
      body: Buffer.from(Array.from({ length: 256 }, (_, i) => i)),
    },
  ];
  for (const { what, path = '/', status = 200, headers, body } of UNTOUCHED) {
    it(`passes ${what} untouched`, () =>
      withGateway(
        (_request, response) =>
          response.writeHead(status, { ...headers, 'content-length': body!.length, etag: '"v1"' }).end(body),
        async (ask) => {
          const answer = await ask({ path });
          expect(answer.status).to.equal(status);
          expect(answer.body.equals(body!)).to.equal(true);
          expect(answer.headers).to.include({ 'content-length': String(body!.length), etag: '"v1"' });
          expect(answer.headers).not.to.have.property('pragmatica-release');
        },
      ));
  }

  const CODINGS = [
    ['gzip', gzipSync, gunzipSync],
    ['br', brotliCompressSync, brotliDecompressSync],
    ['deflate', deflateSync, inflateSync],
  ] as const;
  for (const [coding, encode, decode] of CODINGS) {
    it(`decodes ${coding}, inserts, and encodes again`, () =>
      withGateway(
        (request, response) => {
          expect(request.headers['accept-encoding']).to.equal(coding);
          response.writeHead(200, { ...HTML, 'content-encoding': coding }).end(encode(PAGE));
        },
        async (ask) => {
          const answer = await ask({ headers: { 'accept-encoding': `${coding}, zstd` } });
          expect(answer.headers['content-encoding']).to.equal(coding);
          expect(decode(answer.body).toString()).to.equal(WITH_CODE);
        },
        // As from an origin far away, which is not asked for plain pages.
        { compress: false },
      ));
  }

  it('makes the page’s tag tell releases apart, and understands it when it comes back', () =>
    withGateway(
      (request, response) => {
        if (request.headers['if-none-match'] === '"v1"' || request.headers['if-none-match'] === 'W/"v1"')
          response.writeHead(304, { ...HTML, etag: '"v1"' }).end();
        else response.writeHead(200, { ...HTML, etag: '"v1"' }).end(PAGE);
      },
      async (ask) => {
        const first = await ask();
        const tag = first.headers.etag!;
        expect(tag).to.match(/^W\/"v1;pragmatica-\w+"$/);
        const again = await ask({ headers: { 'if-none-match': tag } });
        expect([again.status, again.headers.etag], 'the tag stays').to.deep.equal([304, tag]);
        const other = tag.replace(/pragmatica-\w+/, 'pragmatica-000000000000');
        expect((await ask({ headers: { 'if-none-match': other } })).status, 'another release').to.equal(200);
        const accept = 'text/html,*/*;q=0.8';
        const bare = {
          accept,
          'if-none-match': '"v1"',
          'if-modified-since': 'Mon, 23 Nov 2026 00:00:00 GMT',
        };
        expect((await ask({ headers: bare })).text, 'kept from before there was a release').to.equal(
          WITH_CODE,
        );
        expect((await ask({ path: '/plain', headers: bare })).status, 'a page without parts').to.equal(304);
        expect(
          (await ask({ headers: { accept: 'image/*', 'if-none-match': '"v1"' } })).status,
          'no page',
        ).to.equal(304);
      },
    ));

  it('answers HEAD with the page’s headers and no body', () =>
    withGateway(
      (request, response) =>
        response
          .writeHead(200, { ...HTML, 'content-length': PAGE.length })
          .end(request.method === 'HEAD' ? undefined : PAGE),
      async (ask) => {
        const answer = await ask({ method: 'HEAD' });
        expect([answer.status, answer.body.length]).to.deep.equal([200, 0]);
        expect(answer.headers['pragmatica-release']).to.equal('7');
      },
    ));

  it('passes requests on whole: method, body, host and who asked, without headers of the connection', () =>
    withGateway(
      (request, response) => {
        const chunks: Buffer[] = [];
        request.on('data', (chunk: Buffer) => chunks.push(chunk));
        request.on('end', () =>
          response.writeHead(201, { 'content-type': 'application/json' }).end(
            JSON.stringify({
              method: request.method,
              url: request.url,
              headers: request.headers,
              body: Buffer.concat(chunks).toString(),
            }),
          ),
        );
      },
      async (ask) => {
        const answer = await ask({
          method: 'POST',
          path: '/a%20b?c=d',
          body: 'sent',
          headers: { connection: 'x-mine, keep-alive', 'x-mine': '1', 'x-other': '2', 'content-length': '4' },
        });
        const seen = JSON.parse(answer.text) as {
          method: string;
          url: string;
          body: string;
          headers: Record<string, string>;
        };
        expect(answer.status).to.equal(201);
        expect(seen).to.include({ method: 'POST', url: '/a%20b?c=d', body: 'sent' });
        expect(seen.headers).to.include({
          host: 'mill.localhost',
          'x-forwarded-host': 'mill.localhost',
          'x-forwarded-for': '127.0.0.1',
          via: '1.1 pragmatica',
          'x-other': '2',
        });
        expect(seen.headers).not.to.have.property('x-mine');
      },
    ));

  it('refuses a host that no site has', () =>
    withGateway(
      (_request, response) => response.end('never'),
      async (ask) => {
        const answer = await ask({ host: 'other.localhost' });
        expect(answer.status).to.equal(421);
        expect(answer.text).to.include('other.localhost').and.not.include('never');
      },
    ));

  it('says when the origin does not answer, and only then speaks for itself', () =>
    withGateway(
      (request) => request.socket.destroy(),
      async (ask) => {
        const answer = await ask();
        expect(answer.status).to.equal(502);
        expect(answer.text).to.include('does not answer');
      },
    ));

  it('streams: the visitor has the first bytes before the origin has sent the last', () => {
    let visitorHasSome: () => void;
    const some = new Promise<void>((resolve) => (visitorHasSome = resolve));
    return withGateway(
      (_request, response) => {
        response.writeHead(200, HTML);
        response.write(PAGE.slice(0, 60));
        // A gateway that waited for the whole page would wait for ever.
        void some.then(() => response.end(PAGE.slice(60)));
      },
      async (ask) => expect((await ask({ onFirstBytes: () => visitorHasSome() })).text).to.equal(WITH_CODE),
    );
  });

  describe('when something of ours fails', () => {
    const served = (_request: unknown, response: ServerResponse): void => {
      response.writeHead(200, HTML);
      response.write(PAGE.slice(0, 70));
      setTimeout(() => response.end(PAGE.slice(70)), 20);
    };
    const failing =
      (at: 'write' | 'second write' | 'end'): GatewayOptions['createInserter'] =>
      () => {
        let held = Buffer.alloc(0);
        let writes = 0;
        return {
          write(chunk: Uint8Array) {
            held = Buffer.concat([held, chunk]);
            writes++;
            if (at === 'write' || (at === 'second write' && writes === 2)) throw new Error('injected');
            const given = held;
            held = Buffer.alloc(0);
            return at === 'second write' ? [given] : ((held = given), []);
          },
          end() {
            throw new Error('injected');
          },
          held: () => held,
          outcomes: [],
          edits: [],
          abandon: () => undefined,
        };
      };
    for (const at of ['write', 'second write', 'end'] as const) {
      it(`in the inserter’s ${at}, the page goes out as the origin sent it, and a metric says so`, () =>
        withGateway(
          served,
          async (ask, metrics) => {
            const answer = await ask();
            expect([answer.status, answer.text]).to.deep.equal([200, PAGE]);
            expect(await metrics.gateway.metrics()).to.include(
              'pragmatica_gateway_pages_total{outcome="failed-open"} 1',
            );
          },
          { createInserter: failing(at) },
        ));
    }

    it('before the first byte, the page goes out untouched', () => {
      const createInserter = (): never => {
        throw new Error('injected');
      };
      return withGateway(served, async (ask) => expect((await ask()).text).to.equal(PAGE), {
        createInserter,
      });
    });

    it('while planning, the page goes out untouched', () => {
      const broken = set(snippet('chat'));
      Object.defineProperty(broken.snippets[0]!.parts[0]!, 'code', {
        get: () => {
          throw new Error('injected');
        },
      });
      return withGateway(served, async (ask) => expect((await ask()).text).to.equal(PAGE), {
        snapshot: broken,
      });
    });
  });
});
