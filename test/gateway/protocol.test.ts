import { readFileSync } from 'node:fs';
import { createServer, type RequestListener } from 'node:http';
import { createServer as createHttps } from 'node:https';
import { createConnection, createServer as createTcp } from 'node:net';
import { fileURLToPath } from 'node:url';
import { constants, gunzipSync, gzipSync } from 'node:zlib';
import { PageInserter } from '@pragmatica/core';
import { createCoding, type InserterFactory } from '@pragmatica/gateway';
import { expect } from 'chai';
import { CODE, HOST, startGateway, type StartedGateway } from '../support/gateway.js';
import { eventually } from '../support/http.js';
import { listen } from '../support/stage.js';

const HTML = { 'content-type': 'text/html; charset=utf-8' };
const PAGE = '<!doctype html><title>t</title><body><p>x</p></body>';
const WITH_CODE = PAGE.replace('</body>', `${CODE}</body>`);

describe('the gateway as an intermediary', () => {
  let gateway: StartedGateway | undefined;
  afterEach(() => gateway?.close());

  async function through(origin: RequestListener, options: Parameters<typeof startGateway>[1] = {}) {
    gateway = await startGateway([createServer(origin)], options);
    return gateway;
  }

  it('believes proxies that it was told to trust, and nobody else', async () => {
    const seen: Record<string, unknown>[] = [];
    const origin: RequestListener = (request, response) => {
      seen.push(request.headers);
      response.writeHead(302, { location: `http://${request.headers.host!.split(':')[0]!}.invalid/` }).end();
    };
    const headers = {
      forwarded: 'for=192.0.2.1;proto=https',
      'x-forwarded-for': '192.0.2.1',
      'x-forwarded-proto': 'https',
    };
    for (const trustedProxies of [0, [], ['10.0.0.0/8']] as const) {
      const { ask } = await through(origin, { trustedProxies });
      await ask({ headers });
      expect(seen.at(-1)).to.include({
        forwarded: `for=127.0.0.1;host="${HOST}";proto=http`,
        'x-forwarded-for': '127.0.0.1',
        'x-forwarded-proto': 'http',
      });
      await gateway!.close();
    }
    for (const trustedProxies of [1, ['loopback'], ['10.0.0.0/8', '127.0.0.1']] as const) {
      const { ask } = await through(origin, { trustedProxies });
      await ask({ headers });
      expect(seen.at(-1)).to.include({
        forwarded: `for=192.0.2.1;proto=https, for=127.0.0.1;host="${HOST}";proto=https`,
        'x-forwarded-for': '192.0.2.1, 127.0.0.1',
        'x-forwarded-proto': 'https',
      });
      await ask({ headers: { 'x-forwarded-proto': 'gopher' } });
      expect(seen.at(-1)).to.include({ 'x-forwarded-proto': 'http' });
      await gateway!.close();
    }
  });

  it('makes redirects to the origin’s own address those of the address that visitors see', async () => {
    const { ask } = await through(
      (request, response) =>
        response.writeHead(302, { location: `http://127.0.0.1:${request.socket.localPort!}/there?x` }).end(),
      { trustedProxies: 1 },
    );
    expect((await ask({ headers: { 'x-forwarded-proto': 'https' } })).headers.location).to.equal(
      `https://${HOST}/there?x`,
    );
    expect((await ask()).headers.location).to.equal(`http://${HOST}/there?x`);
  });

  it('notices that an origin leads back to it, and says so at once', async () => {
    let passed = 0;
    const { ask } = await through((request, response) => {
      passed++;
      response.end(request.headers.via);
    });
    expect((await ask({ headers: { via: '1.1 pragmatica-other, 1.0 edge' } })).status).to.equal(200);
    for (const via of ['1.1 pragmatica', '1.0 edge, 1.1 pragmatica', 'HTTP/1.1 pragmatica (x)'])
      expect((await ask({ headers: { via } })).status, via).to.equal(508);
    expect(passed).to.equal(1);
  });

  it('tells the origin who asks, by the standard header and by the usual ones, after those before it', async () => {
    let seen: Record<string, unknown> = {};
    const { ask } = await through(
      (request, response) => {
        seen = request.headers;
        response.end();
      },
      { trustedProxies: 1 },
    );
    await ask({ headers: { forwarded: 'for=192.0.2.1', 'x-forwarded-for': '192.0.2.1', via: '1.0 edge' } });
    expect(seen).to.include({
      forwarded: `for=192.0.2.1, for=127.0.0.1;host="${HOST}";proto=http`,
      'x-forwarded-for': '192.0.2.1, 127.0.0.1',
      'x-forwarded-host': HOST,
      'x-forwarded-proto': 'http',
      via: '1.0 edge, 1.1 pragmatica',
      host: HOST,
    });
  });

  it('passes on no header of one connection, in either direction', async () => {
    let seen: Record<string, unknown> = {};
    const { ask } = await through((request, response) => {
      seen = request.headers;
      response
        .writeHead(200, { connection: 'x-hop', 'x-hop': '1', 'x-end': '1', 'keep-alive': 'timeout=9' })
        .end();
    });
    const { headers } = await ask({
      headers: { connection: 'x-mine', 'x-mine': '1', te: 'trailers', 'x-end': '1' },
    });
    expect(seen).to.include({ 'x-end': '1' }).and.not.to.have.any.keys('x-mine', 'te');
    expect(headers).to.include({ 'x-end': '1' }).and.not.to.have.any.keys('x-hop');
  });

  it('says redirects and cookies of the origin’s own address of the public one, and others as they are', async () => {
    const { ask } = await through((request, response) => {
      const own = `http://127.0.0.1:${request.socket.localPort!}`;
      response.writeHead(302, {
        location: request.url === '/own' ? `${own}/next?a=b#c` : 'https://elsewhere.example/next',
        'set-cookie': ['a=1; Domain=127.0.0.1; Path=/', `b=2; domain=.${HOST}; Secure`, 'c=3'],
      });
      response.end();
    });
    const own = await ask({ path: '/own' });
    expect(own.headers['location']).to.equal(`http://${HOST}/next?a=b#c`);
    expect(own.headers['set-cookie']).to.deep.equal(['a=1; Path=/', `b=2; domain=.${HOST}; Secure`, 'c=3']);
    expect((await ask({ path: '/else' })).headers['location']).to.equal('https://elsewhere.example/next');
  });

  it('asks for whole pages where it puts something in, and passes ranges of anything else', async () => {
    const { ask } = await through((request, response) => {
      if (request.headers.range === undefined) response.writeHead(200, HTML).end(PAGE);
      else response.writeHead(206, { 'content-type': 'video/x', 'content-range': 'bytes 0-1/9' }).end('ab');
    });
    const range = { range: 'bytes=0-1', 'if-range': '"x"' };
    expect((await ask({ headers: { ...range, accept: 'text/html' } })).text).to.equal(WITH_CODE);
    expect((await ask({ headers: { ...range, accept: 'video/*' } })).status).to.equal(206);
  });

  it('passes Age, Cache-Control, Vary and trailers', async () => {
    const { raw } = await through((_request, response) => {
      response.writeHead(200, {
        ...HTML,
        age: '7',
        'cache-control': 'max-age=60',
        vary: 'Cookie',
        trailer: 'x-sum',
      });
      response.write(PAGE);
      response.addTrailers({ 'x-sum': '42' });
      response.end();
    });
    const text = await raw(`GET / HTTP/1.1\r\nHost: ${HOST}\r\n\r\n`, /x-sum: 42/i);
    expect(text)
      .to.match(/age: 7\r\n/i)
      .and.match(/cache-control: max-age=60/i)
      .and.match(/vary: Cookie/i);
    expect(text)
      .to.include(CODE)
      .and.match(/\r\n0\r\nx-sum: 42/i);
  });

  it('passes interim answers, and says 100 itself', async () => {
    const { raw } = await through((request, response) => {
      response.writeEarlyHints({ link: '</a.css>; rel=preload' });
      let body = '';
      request.on('data', (data) => (body += String(data)));
      request.on('end', () => response.writeHead(200, { 'content-type': 'text/plain' }).end(`got ${body}`));
    });
    const text = await raw(
      `POST / HTTP/1.1\r\nHost: ${HOST}\r\nExpect: 100-continue\r\nContent-Length: 2\r\n\r\nhi`,
      /got hi/,
    );
    expect(text).to.match(/^HTTP\/1\.1 100 /);
    expect(text).to.match(/HTTP\/1\.1 103 .*\r\nLink: <\/a\.css>; rel=preload/);
  });

  it('passes events one by one, as they come', async () => {
    let next: () => void = () => undefined;
    const { raw } = await through((_request, response) => {
      response.writeHead(200, { 'content-type': 'text/event-stream' });
      response.write('data: 1\n\n');
      next = () => response.end('data: 2\n\n');
    });
    const first = await raw(`GET / HTTP/1.1\r\nHost: ${HOST}\r\n\r\n`, /data: 1/);
    expect(first).not.to.include('data: 2');
    next();
  });

  it('passes a WebSocket both ways, and the origin’s no', async () => {
    const origin = createServer((_request, response) => response.writeHead(403).end('not here'));
    origin.on('upgrade', (request, socket, head) => {
      if (request.url === '/no') {
        socket.end('HTTP/1.1 403 Forbidden\r\nContent-Length: 8\r\n\r\nnot here');
        return;
      }
      socket.write(
        `HTTP/1.1 101 Switching Protocols\r\nUpgrade: ${request.headers.upgrade!}\r\nConnection: Upgrade\r\n\r\n`,
      );
      socket.write(`hello ${request.headers['x-forwarded-host'] as string} ${head.toString()}`);
      socket.on('data', (data: Buffer) => socket.write(`echo ${data.toString()}`));
    });
    gateway = await startGateway([origin]);
    const ask = (path: string): string =>
      `GET ${path} HTTP/1.1\r\nHost: ${HOST}\r\nConnection: Upgrade\r\nUpgrade: websocket\r\n\r\n`;
    const socket = createConnection(gateway.port, '127.0.0.1', () => socket.write(ask('/yes')));
    let got = '';
    socket.on('data', (data) => (got += data.toString()));
    await eventually(() => expect(got).to.match(new RegExp(`^HTTP/1.1 101 [^]*hello ${HOST}`)));
    socket.write('there');
    await eventually(() => expect(got).to.include('echo there'));
    socket.destroy();
    expect(await gateway.raw(ask('/no'))).to.match(/^HTTP\/1\.1 403 [^]*not here$/);
  });

  it('answers what is for itself: OPTIONS of everything, the last hop, TRACE and CONNECT', async () => {
    const { raw } = await through((request, response) =>
      response.end(request.headers['max-forwards'] ?? 'passed'),
    );
    const ask = (line: string, more = ''): Promise<string> =>
      raw(`${line} HTTP/1.1\r\nHost: ${HOST}\r\nConnection: close\r\n${more}\r\n`);
    expect(await ask('OPTIONS *')).to.match(/^HTTP\/1\.1 204 [^]*allow: GET/i);
    expect(await ask('OPTIONS /x', 'Max-Forwards: 0\r\n')).to.match(/^HTTP\/1\.1 204 /);
    expect(await ask('OPTIONS /x', 'Max-Forwards: 3\r\n')).to.match(/\r\n\r\n(?:1\r\n)?2/);
    expect(await ask('TRACE /')).to.match(/^HTTP\/1\.1 405 /);
    expect(await ask(`CONNECT ${HOST}:80`)).to.match(/^HTTP\/1\.1 405 /);
  });

  it('takes the host of a target in absolute form for the host', async () => {
    const { raw } = await through((request, response) =>
      response.end(`${request.headers.host!} ${request.url!}`),
    );
    const text = await raw(
      `GET http://${HOST}/a?b HTTP/1.1\r\nHost: other.localhost\r\nConnection: close\r\n\r\n`,
    );
    expect(text).to.include(`${HOST} /a?b`);
  });

  describe('refuses what can be read in two ways', () => {
    const head = `POST / HTTP/1.1\r\nHost: ${HOST}\r\n`;
    const shapes: readonly [string, string][] = [
      ['a length and chunks', `${head}Content-Length: 4\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n`],
      ['two lengths', `${head}Content-Length: 4\r\nContent-Length: 5\r\n\r\nabcd`],
      ['a length that is no number', `${head}Content-Length: 0x4\r\n\r\nabcd`],
      ['a length below nothing', `${head}Content-Length: -1\r\n\r\n`],
      ['chunks that are not the last coding', `${head}Transfer-Encoding: chunked, gzip\r\n\r\n0\r\n\r\n`],
      ['a chunk length that is no number', `${head}Transfer-Encoding: chunked\r\n\r\nzz\r\n\r\n`],
      ['a header name with a space', `${head}Content-Length : 4\r\n\r\nabcd`],
      ['a folded header', `${head}X-A: b\r\n c\r\n\r\n`],
      ['a bare line feed in the head', `${head}X-A: b\nTransfer-Encoding: chunked\r\n\r\n`],
      ['two hosts', `GET / HTTP/1.1\r\nHost: ${HOST}\r\nHost: other.localhost\r\n\r\n`],
      ['no host', 'GET / HTTP/1.1\r\n\r\n'],
      ['a null byte', `${head}X-A: a\0b\r\n\r\n`],
    ];
    for (const [what, text] of shapes) {
      it(what, async () => {
        let reached = 0;
        const { raw } = await through((_request, response) => {
          reached++;
          response.end();
        });
        expect(await raw(text, /\r\n\r\n/)).to.match(/^HTTP\/1\.1 400 /);
        expect(reached, 'requests that reached the origin').to.equal(0);
      });
    }
  });

  it('refuses heads and bodies that are too long, and senders that are too slow', async () => {
    let reached = 0;
    const { raw } = await through(
      (request, response) => {
        reached++;
        request.resume();
        request.on('end', () => response.end('done'));
      },
      { longestBody: 10, headTimeoutMs: 300, requestTimeoutMs: 600 },
    );
    const post = `POST / HTTP/1.1\r\nHost: ${HOST}\r\n`;
    expect(await raw(`GET / HTTP/1.1\r\nHost: ${HOST}\r\nX-A: ${'a'.repeat(70_000)}\r\n\r\n`)).to.match(
      /^HTTP\/1\.1 431 /,
    );
    expect(await raw(`${post}Content-Length: 11\r\n\r\n`, /<\/html>/)).to.match(/^HTTP\/1\.1 413 /);
    expect(reached).to.equal(0);
    const chunked = `${post}Transfer-Encoding: chunked\r\n\r\n14\r\n${'a'.repeat(20)}\r\n0\r\n\r\n`;
    expect(await raw(chunked, /<\/html>/)).to.match(/^HTTP\/1\.1 413 /);
    expect(await raw(`GET / HTTP/1.1\r\nHost: ${HOST}\r\nX-`)).to.match(/^HTTP\/1\.1 408 /);
    expect(await raw(`${post}Content-Length: 5\r\n\r\nab`)).to.match(/^HTTP\/1\.1 408 |^$/);
  });

  describe('with codings', () => {
    const coded =
      (body: Buffer, coding = 'gzip'): RequestListener =>
      (_request, response) => {
        response.writeHead(200, { ...HTML, 'content-encoding': coding, etag: '"a"' });
        for (let at = 0; at < body.length; at += 50) response.write(body.subarray(at, at + 50));
        response.end();
      };

    it('unpacks a page of several gzip members', async () => {
      const body = Buffer.concat([gzipSync(PAGE.slice(0, 20)), gzipSync(PAGE.slice(20))]);
      const { ask } = await through(coded(body));
      const answer = await ask({ headers: { 'accept-encoding': 'gzip' } });
      expect(gunzipSync(answer.body).toString()).to.equal(WITH_CODE);
    });

    it('cuts off a page that unpacks without end', async () => {
      const member = gzipSync(Buffer.alloc(1 << 20, ' '));
      const { ask, lines } = await through((_request, response) => {
        response.writeHead(200, { ...HTML, 'content-encoding': 'gzip' });
        response.end(Buffer.concat(new Array<Buffer>(300).fill(member)));
      });
      const outcome = await ask({ headers: { 'accept-encoding': 'gzip' } }).then(
        () => 'all of it',
        () => 'cut off',
      );
      expect(outcome).to.equal('cut off');
      expect(lines.join()).to.include('unpacks to too much');
    });

    for (const coding of ['gzip', 'br', 'deflate']) {
      it(`passes a page untouched that only says it is ${coding}`, async () => {
        const { ask, metrics } = await through(coded(Buffer.from(PAGE), coding));
        const answer = await ask({ headers: { 'accept-encoding': coding } });
        expect(answer.body.toString()).to.equal(PAGE);
        expect(answer.headers).to.include({ etag: '"a"', 'content-encoding': coding });
        expect(answer.headers).not.to.have.any.keys('pragmatica-release');
        expect(await metrics.gateway.metrics()).to.include('outcome="failed-open"} 1');
      });
    }

    it('passes a page untouched when packing it again fails before its first byte', async () => {
      const body = gzipSync(PAGE);
      gateway = await startGateway([createServer(coded(body))], {
        createCoding: (coding) => {
          const streams = createCoding(coding)!;
          streams.encoder._transform = (_chunk, _encoding, done) => done(new Error('injected'));
          return streams;
        },
      });
      const answer = await gateway.ask({ headers: { 'accept-encoding': 'gzip' } });
      expect(answer.body).to.deep.equal(body);
      expect(gateway.lines.join()).to.include('injected');
    });

    it('passes what an origin has sent of a page that it cut off', async () => {
      const body = gzipSync(PAGE.repeat(50), { finishFlush: constants.Z_SYNC_FLUSH });
      const { ask } = await through(coded(body.subarray(0, body.length - 10)));
      const answer = await ask({ headers: { 'accept-encoding': 'gzip' } });
      expect(gunzipSync(answer.body).toString()).to.include('<p>x</p>');
    });
  });

  describe('with several origins', () => {
    const named = (name: string, status = 200) =>
      createServer((_request, response) =>
        response.writeHead(status, { 'content-type': 'text/plain' }).end(name),
      );

    it('lets them take turns, and one that does not answer is left out for a while', async () => {
      const dead = await listen(createTcp());
      const address = `http://127.0.0.1:${dead.port}`;
      await new Promise((resolve) => dead.server.close(resolve));
      gateway = await startGateway([named('a'), address, named('b')]);
      const answers: string[] = [];
      for (let i = 0; i < 9; i++) answers.push((await gateway.ask()).text);
      expect(answers).to.include('a').and.include('b');
      expect(answers.every((text) => text === 'a' || text === 'b')).to.equal(true);
      expect(gateway.lines.filter((line) => line.includes('others go first'))).to.have.length(1);
    });

    it('leaves one out whose health check fails, until it is well again', async () => {
      let status = 500;
      const ill = createServer((request, response) =>
        response
          .writeHead(request.url === '/health' ? status : 200, { 'content-type': 'text/plain' })
          .end('ill'),
      );
      gateway = await startGateway([ill, named('well')], {
        origins: { healthPath: '/health', healthIntervalMs: 30 },
      });
      await gateway.ask();
      await gateway.ask();
      await eventually(() => expect(gateway!.lines.join()).to.include('health check'));
      const answers = await Promise.all(Array.from({ length: 6 }, () => gateway!.ask()));
      expect(new Set(answers.map(({ text }) => text))).to.deep.equal(new Set(['well']));
      status = 200;
      await eventually(async () => expect((await gateway!.ask()).text).to.equal('ill'));
    });

    it('asks again when a connection breaks before an answer, for what can be asked twice', async () => {
      let asked = 0;
      const { ask } = await through((request, response) => {
        if (++asked % 2 === 1) request.socket.destroy();
        else response.end('ok');
      });
      expect((await ask()).text).to.equal('ok');
      expect((await ask({ method: 'POST', headers: { 'content-length': '0' } })).status).to.equal(502);
    });
  });

  describe('with an origin behind TLS', () => {
    const file = (name: string): string => fileURLToPath(new URL(`../support/tls/${name}`, import.meta.url));
    let port: number;
    let origin: ReturnType<typeof createHttps>;
    before(async () => {
      origin = createHttps(
        { cert: readFileSync(file('origin.pem')), key: readFileSync(file('origin-key.pem')) },
        (_request, response) => response.writeHead(200, HTML).end(PAGE),
      );
      ({ port } = await listen(origin as never));
    });
    after(() => {
      origin.closeAllConnections();
      origin.close();
    });

    it('trusts the certificates of a file, for the origin’s own name', async () => {
      gateway = await startGateway([`https://origin.localhost:${port}`], {
        origins: { caFile: file('ca.pem') },
      });
      expect((await gateway.ask()).text).to.equal(WITH_CODE);
    });

    it('does not trust a certificate that nobody vouches for, or one of another name', async () => {
      gateway = await startGateway([`https://origin.localhost:${port}`]);
      expect((await gateway.ask()).status).to.equal(502);
      await gateway.close();
      gateway = await startGateway([`https://another.localhost:${port}`], {
        origins: { caFile: file('ca.pem') },
      });
      expect((await gateway.ask()).status).to.equal(502);
    });
  });

  describe('where a page has a strong validator', () => {
    it('puts parts where they went before, without reading the page, and notices another page', async () => {
      let page = PAGE;
      let made = 0;
      const { ask, metrics } = await through(
        (_request, response) =>
          response.writeHead(200, { ...HTML, etag: '"1"', 'content-length': page.length }).end(page),
        { createInserter: countingInserter(() => made++) },
      );
      for (let i = 0; i < 3; i++) expect((await ask()).text).to.equal(WITH_CODE);
      expect(made).to.equal(1);
      page = PAGE.replace('</p>', '</b>');
      expect((await ask()).text, 'nothing is put into a page that is another').to.equal(page);
      expect(await metrics.gateway.metrics()).to.include('outcome="failed-open"} 1');
      expect((await ask()).text).to.equal(page.replace('</body>', `${CODE}</body>`));
    });
  });

  it('stops trying a page on which insertion keeps failing, and says so', async () => {
    const { ask, metrics, lines } = await through(
      (_request, response) => response.writeHead(200, HTML).end(PAGE),
      {
        createInserter: () => {
          throw new Error('injected');
        },
      },
    );
    for (let i = 0; i < 5; i++) expect((await ask({ path: `/a?${i}` })).text).to.equal(PAGE);
    const text = await metrics.gateway.metrics();
    expect(text).to.include('outcome="failed-open"} 3').and.include('outcome="switched-off"} 2');
    expect(lines.join()).to.include('insertion is switched off for this page');
  });

  it('finishes what is under way when it closes', async () => {
    let finish: () => void = () => undefined;
    const origin = await listen(
      createServer((_request, response) => {
        response.writeHead(200, HTML).write(PAGE.slice(0, 30));
        finish = () => response.end(PAGE.slice(30));
      }),
    );
    gateway = await startGateway([`http://127.0.0.1:${origin.port}`], { drainMs: 5_000 });
    const answer = gateway.ask({ onFirstBytes: () => setTimeout(finish, 100) });
    await new Promise((resolve) => setTimeout(resolve, 50));
    await gateway.close();
    expect((await answer).text).to.equal(WITH_CODE);
    gateway = undefined;
    origin.server.close();
  });
});

/** The real inserter, counted. */
function countingInserter(count: () => void): InserterFactory {
  return (parts, encoding) => {
    count();
    return new PageInserter(parts, { encoding });
  };
}
