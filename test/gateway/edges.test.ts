import { createServer, type RequestListener } from 'node:http';
import { createConnection, createServer as createTcp, type Server as TcpServer, type Socket } from 'node:net';
import { brotliDecompressSync, gunzipSync, gzipSync } from 'node:zlib';
import { expect } from 'chai';
import { repairedHead } from '../../packages/gateway/dist/page/lenient-origin.js';
import { preferredCoding } from '../../packages/gateway/dist/page/packing.js';
import { eventually } from '../support/http.js';
import { CODE, HOST, startGateway, type StartedGateway } from '../support/gateway.js';
import { listen } from '../support/stage.js';

const TEXT = '<p>A boat leaves every hour, and one more when the tide is high.</p>\n'.repeat(20);
const PAGE = `<!doctype html><title>t</title><body>${TEXT}</body>`;
const WITH_CODE = PAGE.replace('</body>', `${CODE}</body>`);
const HTML = { 'content-type': 'text/html; charset=utf-8' };
const GZIP = { 'accept-encoding': 'gzip, br' };

describe('at the gateway’s edges', function () {
  this.timeout(60_000);
  let gateway: StartedGateway | undefined;
  const servers: TcpServer[] = [];
  afterEach(async () => {
    await gateway?.close();
    gateway = undefined;
    for (const server of servers.splice(0)) server.close();
  });

  async function through(origin: RequestListener, options: Parameters<typeof startGateway>[1] = {}) {
    gateway = await startGateway([createServer(origin)], options);
    return gateway;
  }

  /** An origin that answers each request with just these bytes. */
  async function rawOrigin(answer: (socket: Socket, request: string) => void): Promise<StartedGateway> {
    const { server, port } = await listen(
      createTcp((socket) => {
        let got = '';
        socket.on('error', () => undefined);
        socket.on('data', (data) => {
          got += data.toString('latin1');
          if (!got.includes('\r\n\r\n')) return;
          const request = got;
          got = '';
          answer(socket, request);
        });
      }),
    );
    servers.push(server);
    gateway = await startGateway([`http://127.0.0.1:${port}`]);
    return gateway;
  }

  describe('an upgrade', () => {
    it('that is none leaves nothing behind that swallows the next visitor’s request', async () => {
      const seen: string[] = [];
      const { raw } = await through((request, response) => {
        seen.push(`${request.method!} ${request.url!}`);
        request.resume();
        request.on('end', () => response.end(`for ${request.url!}`));
      });
      const evil = `POST /evil HTTP/1.1\r\nHost: ${HOST}\r\nConnection: Upgrade\r\nUpgrade: websocket\r\nContent-Length: 700\r\n\r\n`;
      const socket = createConnection(gateway!.port, '127.0.0.1', () => socket.write(evil));
      socket.on('error', () => undefined);
      await new Promise((done) => setTimeout(done, 100));
      const visitors = await Promise.all(
        Array.from({ length: 5 }, (_, i) =>
          raw(`GET /visitor-${i} HTTP/1.1\r\nHost: ${HOST}\r\nConnection: close\r\n\r\n`),
        ),
      );
      visitors.forEach((text, i) => expect(text).to.include(`for /visitor-${i}`));
      socket.destroy();
      expect(seen.filter((line) => line.startsWith('GET'))).to.have.length(5);
    });

    it('to something else than a WebSocket is ignored: the page comes, with its snippets, and bodies arrive', async () => {
      const bodies: string[] = [];
      const { raw } = await through((request, response) => {
        let body = '';
        expect(request.headers.upgrade).to.equal(undefined);
        request.on('data', (chunk) => (body += String(chunk)));
        request.on('end', () => {
          bodies.push(body);
          response.writeHead(200, HTML).end(PAGE);
        });
      });
      for (const upgrade of ['h2c', 'TLS/1.0', 'websocket, h2c']) {
        const head = `Host: ${HOST}\r\nAccept: text/html\r\nConnection: Upgrade, HTTP2-Settings, close\r\nUpgrade: ${upgrade}\r\nHTTP2-Settings: AAMAAABk\r\n`;
        expect(await raw(`GET / HTTP/1.1\r\n${head}\r\n`), upgrade).to.include(CODE);
        expect(await raw(`POST / HTTP/1.1\r\n${head}Content-Length: 5\r\n\r\nhello`), upgrade).to.include(
          CODE,
        );
        expect(
          await raw(`POST / HTTP/1.1\r\n${head}Transfer-Encoding: chunked\r\n\r\n3\r\nabc\r\n0\r\n\r\n`),
        ).to.include(CODE);
      }
      expect(bodies).to.deep.equal(['', 'hello', 'abc', '', 'hello', 'abc', '', 'hello', 'abc']);
    });

    it('that is ignored keeps the connection for what follows', async () => {
      const { raw } = await through((request, response) => response.end(`for ${request.url!}`));
      const first = `GET /1 HTTP/1.1\r\nHost: ${HOST}\r\nConnection: Upgrade\r\nUpgrade: h2c\r\n\r\n`;
      const second = `GET /2 HTTP/1.1\r\nHost: ${HOST}\r\nConnection: close\r\n\r\n`;
      expect(await raw(first + second)).to.match(/for \/1[^]*for \/2/);
    });
  });

  describe('an origin that is not strict', () => {
    const heads: readonly [string, string][] = [
      ['two equal lengths', 'HTTP/1.1 200 OK\r\nContent-Length: 5\r\nContent-Length: 5\r\n\r\nhello'],
      ['a control character in a header', 'HTTP/1.1 200 OK\r\nX-A: a\x01b\r\nContent-Length: 5\r\n\r\nhello'],
      ['bare line feeds', 'HTTP/1.1 200 OK\nContent-Type: text/plain\nContent-Length: 5\n\nhello'],
      ['a space before the colon', 'HTTP/1.1 200 OK\r\nContent-Length : 5\r\n\r\nhello'],
      [
        'bare line feeds and an early hint',
        'HTTP/1.1 103 Early Hints\nLink: </a>\n\nHTTP/1.1 200 OK\nContent-Length: 5\n\nhello',
      ],
    ];
    for (const [what, bytes] of heads)
      it(`is understood where there is one way to: ${what}`, async () => {
        const { ask } = await rawOrigin((socket) => socket.end(Buffer.from(bytes, 'latin1')));
        for (let i = 0; i < 3; i++) {
          const answer = await ask();
          expect([answer.status, answer.text]).to.deep.equal([200, 'hello']);
        }
      });

    it('is refused where there are two ways', async () => {
      for (const bytes of [
        'HTTP/1.1 200 OK\r\nContent-Length: 5\r\nContent-Length: 6\r\n\r\nhello!',
        'HTTP/1.1 200 OK\r\nContent-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n',
      ]) {
        const { ask } = await rawOrigin((socket) => socket.end(bytes));
        expect((await ask()).status, bytes).to.equal(502);
        await gateway!.close();
      }
      expect(repairedHead('HTTP/1.1 200 OK\nA: b\nContent-Length: 5\nContent-Length: 6')).to.equal(
        'HTTP/1.1 200 OK\r\nA: b\r\nContent-Length: 5\r\nContent-Length: 6',
      );
    });

    it('may send a head of 60 KB, as with ten large cookies, and gets one as long', async () => {
      const cookies = Array.from({ length: 10 }, (_, i) => `c${i}=${'x'.repeat(4_000)}`);
      // Of this test's own servers and clients the limit is the lower one, unless they are told.
      const origin = createServer({ maxHeaderSize: 100_000 }, (request, response) => {
        response.setHeader('set-cookie', cookies);
        response.end(String(request.headers.cookie?.length));
      });
      gateway = await startGateway([origin]);
      const text = await gateway.raw(
        `GET / HTTP/1.1\r\nHost: ${HOST}\r\nConnection: close\r\nCookie: a=${'y'.repeat(55_000)}\r\n\r\n`,
      );
      expect(text)
        .to.match(/^HTTP\/1\.1 200 /)
        .and.to.match(/\r\n\r\n55002$/);
      expect(text.match(/set-cookie: c\d=x{4000}\r\n/gi)).to.have.length(10);
    });
  });

  describe('an origin that breaks off', () => {
    it('before anything has gone out is asked again', async () => {
      let asked = 0;
      const { ask } = await rawOrigin((socket) => {
        const body = Buffer.from(PAGE);
        socket.write(`HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nContent-Length: ${body.length}\r\n\r\n`);
        if (++asked > 1) socket.end(body);
        else setImmediate(() => socket.destroy());
      });
      const answer = await ask({ headers: GZIP });
      expect(answer.status).to.equal(200);
      expect(gunzipSync(answer.body).toString()).to.equal(WITH_CODE);
      expect(asked).to.equal(2);
    });

    it('in the middle of a page that is not whole yet is asked again, and what comes then is not kept back', async () => {
      let asked = 0;
      let finish = (): void => undefined;
      const origin = await listen(
        createTcp((socket) => {
          socket.on('error', () => undefined);
          socket.on('data', () => {
            socket.write('HTTP/1.1 200 OK\r\nContent-Type: text/css\r\nContent-Length: 600\r\n\r\n');
            socket.write('a'.repeat(400));
            if (++asked === 1) setImmediate(() => socket.destroy());
            else finish = () => socket.end('b'.repeat(200));
          });
        }),
      );
      servers.push(origin.server);
      gateway = await startGateway([`http://127.0.0.1:${origin.port}`]);
      let isFirst = false;
      const answer = gateway.ask({ headers: GZIP, onFirstBytes: () => (isFirst = true) });
      await eventually(() => expect(isFirst).to.equal(true));
      finish();
      expect(gunzipSync((await answer).body).toString()).to.equal('a'.repeat(400) + 'b'.repeat(200));
      expect(asked).to.equal(2);
    });

    it('each time, or in answer to what may not be asked twice, is told of: never an empty answer', async () => {
      const { ask } = await rawOrigin((socket) => {
        socket.write('HTTP/1.1 200 OK\r\nContent-Type: text/html\r\nContent-Length: 5000\r\n\r\n');
        setImmediate(() => socket.destroy());
      });
      for (const method of ['GET', 'POST']) {
        const answer = await ask({ method, headers: GZIP });
        expect(answer.status, method).to.equal(502);
        expect(answer.text).to.include('does not answer');
      }
    });
  });

  describe('a page that never answers', () => {
    it('holds up itself, and says so; the other pages of its site go on', async () => {
      const held: (() => void)[] = [];
      const { ask } = await through((request, response) => {
        if (request.url === '/stalled') held.push(() => response.end());
        else response.writeHead(200, HTML).end(PAGE);
      });
      const statuses: (number | undefined)[] = [];
      const waiting = Array.from({ length: 150 }, async () => {
        statuses.push((await ask({ path: '/stalled' })).status);
      });
      await eventually(() => expect(held).to.have.length(150));
      // As many at once are nothing wrong; that they go on waiting is.
      await new Promise((done) => setTimeout(done, 2_100));
      const refused = await ask({ path: '/stalled?another' });
      expect(refused.status).to.equal(503);
      expect(refused.headers['retry-after']).to.equal('10');
      expect(refused.text).to.include('Other pages are not affected');
      for (let i = 0; i < 20; i++) expect((await ask({ path: `/page-${i}` })).status).to.equal(200);
      for (const end of held) end();
      await Promise.all(waiting);
      expect(statuses).to.deep.equal(new Array(150).fill(200));
      expect((await ask({ path: '/page' })).status).to.equal(200);
    });
  });

  describe('compression', () => {
    const plain =
      (headers: Record<string, string>, body: string): RequestListener =>
      (request, response) => {
        expect(request.headers['accept-encoding']).to.equal('identity');
        response.writeHead(200, headers).end(body);
      };

    it('is done here, once, with the parts in the page; the origin is asked for the plain one', async () => {
      const { ask } = await through(plain({ ...HTML, etag: '"v1"' }, PAGE));
      const first = await ask({ headers: GZIP });
      expect(first.headers).to.include({ 'content-encoding': 'gzip', vary: 'Accept-Encoding' });
      expect(first.headers['content-length']).to.equal(String(first.body.length));
      expect(gunzipSync(first.body).toString()).to.equal(WITH_CODE);
      const again = await ask({ headers: GZIP });
      expect(again.body.equals(first.body)).to.equal(true);
      const br = await ask({ headers: { 'accept-encoding': 'br' } });
      expect(brotliDecompressSync(br.body).toString()).to.equal(WITH_CODE);
      const none = await ask();
      expect(none.headers).not.to.have.property('content-encoding');
      expect(none.headers['vary']).to.equal('Accept-Encoding');
      expect(none.text).to.equal(WITH_CODE);
    });

    it('asks the origin for what the host’s setting says, and sends the same page either way', async () => {
      for (const [transfer, asked] of [
        ['auto', 'identity'],
        ['plain', 'identity'],
        ['compressed', 'gzip, br'],
      ] as const) {
        const { ask } = await through(
          (request, response) => {
            expect(request.headers['accept-encoding']).to.equal(asked);
            if (asked === 'identity') response.writeHead(200, HTML).end(PAGE);
            else response.writeHead(200, { ...HTML, 'content-encoding': 'gzip' }).end(gzipSync(PAGE));
          },
          { transfer },
        );
        const answer = await ask({ headers: GZIP });
        expect(answer.headers['content-encoding']).to.equal('gzip');
        expect(gunzipSync(answer.body).toString(), transfer).to.equal(WITH_CODE);
        await gateway!.close();
      }
    });

    it('packs styles and scripts, whose tags then speak of other bytes, and leaves alone what gains nothing', async () => {
      const css = 'a { color: red }\n'.repeat(50);
      const { ask } = await through((request, response) => {
        const type = new URL(request.url!, 'http://x').searchParams.get('type')!;
        response.writeHead(200, { 'content-type': type, etag: '"v1"', 'accept-ranges': 'bytes' }).end(css);
      });
      const of = (type: string) => ask({ path: `/?type=${encodeURIComponent(type)}`, headers: GZIP });
      for (const type of [
        'text/css',
        'application/javascript',
        'application/json',
        'image/svg+xml',
        'text/plain; charset=utf-8',
      ]) {
        const { headers, body } = await of(type);
        expect(headers, type).to.include({
          'content-encoding': 'gzip',
          etag: 'W/"v1"',
          vary: 'Accept-Encoding',
        });
        expect(headers).not.to.have.property('accept-ranges');
        expect(gunzipSync(body).toString()).to.equal(css);
      }
      for (const type of ['image/png', 'font/woff2', 'application/zip', 'video/mp4', 'text/event-stream']) {
        const { headers, text } = await of(type);
        expect(headers, type).to.include({ etag: '"v1"', 'accept-ranges': 'bytes' });
        expect(headers).not.to.have.any.keys('content-encoding', 'vary');
        expect(text).to.equal(css);
      }
    });

    it('is not done where somebody says so, to parts of a file, to what is short, or when it is off', async () => {
      const untouched = async (headers: Record<string, string>, body: string, status = 200, options = {}) => {
        const { ask } = await through(
          (_request, response) => response.writeHead(status, headers).end(body),
          options,
        );
        const answer = await ask({ headers: GZIP });
        expect(answer.headers).not.to.have.property('content-encoding');
        expect(answer.text).to.equal(body);
        await gateway!.close();
      };
      const css = 'a { color: red }\n'.repeat(50);
      await untouched({ 'content-type': 'text/css', 'cache-control': 'no-transform' }, css);
      await untouched({ 'content-type': 'text/css', 'content-range': 'bytes 0-849/9000' }, css, 206);
      await untouched({ 'content-type': 'text/css', 'content-length': '3' }, 'a{}');
      await untouched({ 'content-type': 'text/css' }, css, 200, { compress: false });
    });

    it('lets out what there is while a page is still being made', async () => {
      let finish = (): void => undefined;
      const { port } = await through((_request, response) => {
        response.writeHead(200, HTML);
        response.write(PAGE.slice(0, 700));
        finish = () => response.end(PAGE.slice(700));
      });
      const socket = createConnection(port, '127.0.0.1', () =>
        socket.write(`GET / HTTP/1.1\r\nHost: ${HOST}\r\nAccept-Encoding: gzip\r\nConnection: close\r\n\r\n`),
      );
      const chunks: Buffer[] = [];
      const closed = new Promise((resolve) => socket.on('close', resolve));
      socket.on('data', (chunk: Buffer) => chunks.push(chunk));
      await eventually(() => expect(Buffer.concat(chunks).length).to.be.greaterThan(350));
      finish();
      await closed;
      const whole = Buffer.concat(chunks);
      expect(whole.toString('latin1')).to.match(/content-encoding: gzip/i);
      expect(gunzipSync(unchunked(whole)).toString()).to.equal(WITH_CODE);
    });

    it('follows what clients prefer', () => {
      for (const [accepted, coding] of [
        ['gzip, deflate, br', 'gzip'],
        ['br', 'br'],
        ['gzip;q=0.5, br', 'br'],
        ['gzip;q=0, br;q=0', undefined],
        ['*', 'gzip'],
        ['*;q=0', undefined],
        ['identity', undefined],
        ['gzip;q=0, *', 'br'],
        ['zstd', undefined],
        [undefined, undefined],
      ] as const)
        expect(preferredCoding(accepted), accepted).to.equal(coding);
    });
  });
});

function unchunked(answer: Buffer): Buffer {
  let rest = answer.subarray(answer.indexOf('\r\n\r\n') + 4);
  const pieces: Buffer[] = [];
  for (;;) {
    const end = rest.indexOf('\r\n');
    const length = Number.parseInt(rest.subarray(0, end).toString(), 16);
    if (!length) return Buffer.concat(pieces);
    pieces.push(rest.subarray(end + 2, end + 2 + length));
    rest = rest.subarray(end + 4 + length);
  }
}
