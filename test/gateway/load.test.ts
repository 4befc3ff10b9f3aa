import { createServer } from 'node:http';
import { createConnection } from 'node:net';
import { expect } from 'chai';
import { ReleasePlanner } from '@pragmatica/core';
import { createGateway, createMetrics } from '@pragmatica/gateway';
import { pino } from 'pino';
import { eventually, send } from '../support/http.js';
import { listen, startStage } from '../support/stage.js';
import { part, set, snippet } from '../support/sets.js';

const HTML = { 'content-type': 'text/html; charset=utf-8' };

describe('the gateway under load', function () {
  this.timeout(180_000);

  it('gives every page load one whole release, never a mixture, while releases come and go', async () => {
    const stage = await startStage();
    const params = { site: 'skerrywick' };
    // Each release puts its own number at three places of the page.
    const number = (n: number, where: string): string => `<script data-n="${n}" data-at="${where}"></script>`;
    const parts = (n: number) =>
      (['head-start', 'body-start', 'body-end'] as const).map((placement) => ({
        placement,
        code: number(n, placement),
      }));
    await stage.client.call('createSnippet', {
      params,
      body: { key: 'numbered', name: 'Numbered', parts: parts(0) },
    });
    await stage.client.call('publish', { params, ifMatch: '*', body: { message: 'numbered' } });
    let isPublishing = true;
    const seen = new Set<string>();
    let pages = 0;
    const visit = async (): Promise<void> => {
      while (isPublishing) {
        const { text, status, headers } = await send({
          port: stage.gatewayPort,
          host: 'skerrywick.localhost',
          path: '/',
        });
        expect(status).to.equal(200);
        const numbers = [...text.matchAll(/data-n="(\d+)" data-at/g)].map((match) => match[1]!);
        if (numbers.length === 0) continue; // release 1, before the first numbered one arrived
        expect(numbers, `release ${String(headers['pragmatica-release'])}`).to.have.length(3);
        expect(new Set(numbers).size).to.equal(1);
        seen.add(numbers[0]!);
        pages++;
      }
    };
    const visitors = Promise.all(Array.from({ length: 4 }, visit));
    for (let n = 1; n <= 12; n++) {
      const { etag } = await stage.client.call('showSnippet', { params: { ...params, snippet: 'numbered' } });
      await stage.client.call('editSnippet', {
        params: { ...params, snippet: 'numbered' },
        ifMatch: etag,
        body: { parts: parts(n) },
      });
      await stage.client.call('publish', { params, ifMatch: '*', body: { message: `number ${n}` } });
    }
    await eventually(() => expect(seen.has('12')).to.equal(true));
    isPublishing = false;
    await visitors;
    expect(pages).to.be.greaterThan(50);
    expect(seen.size).to.be.greaterThan(3);
    await stage.close();
  });

  /** A gateway with one snippet at the end of the body, in front of an origin. */
  async function gatewayFor(listener: Parameters<typeof createServer>[1]) {
    const origin = await listen(createServer(listener));
    const planner = new ReleasePlanner(set(snippet('a', { parts: [part('body-end', 0, '<i>end</i>')] })));
    const served = {
      host: 'mill.localhost',
      site: 'mill',
      environment: 'live',
      origins: [`http://127.0.0.1:${origin.port}`],
      release: { number: 1, digest: 'ab'.repeat(32), planner },
    } as const;
    const gateway = createGateway({
      releases: { find: () => served },
      log: pino({ level: 'silent' }),
      metrics: createMetrics(),
    });
    const { port } = await listen(gateway.server);
    return {
      port,
      async close() {
        origin.server.closeAllConnections();
        origin.server.close();
        gateway.server.closeAllConnections();
        await gateway.close();
      },
    };
  }

  it('stops asking the origin when the visitor has left', async () => {
    let isCancelled = false;
    const gateway = await gatewayFor((_request, response) => {
      response.writeHead(200, HTML);
      const timer = setInterval(() => response.write('<p>more</p>'), 5);
      response.on('close', () => {
        isCancelled = true;
        clearInterval(timer);
      });
    });
    const socket = createConnection(gateway.port, '127.0.0.1');
    socket.write('GET / HTTP/1.1\r\nHost: mill.localhost\r\n\r\n');
    await new Promise((resolve) => socket.once('data', resolve));
    expect(isCancelled).to.equal(false);
    socket.destroy();
    await eventually(() => expect(isCancelled).to.equal(true), 3_000);
    await gateway.close();
  });

  it('does not take more from the origin than the visitor takes from it', async () => {
    const chunk = Buffer.alloc(64 * 1024, '<p>x</p>');
    let sent = 0;
    const gateway = await gatewayFor((_request, response) => {
      response.writeHead(200, HTML);
      const write = (): void => {
        while (sent < 400 * chunk.length && !response.destroyed) {
          sent += chunk.length;
          if (!response.write(chunk)) {
            response.once('drain', write);
            return;
          }
        }
        response.end();
      };
      write();
    });
    const socket = createConnection(gateway.port, '127.0.0.1');
    socket.write('GET / HTTP/1.1\r\nHost: mill.localhost\r\n\r\n');
    socket.pause();
    await new Promise((done) => setTimeout(done, 500));
    // What fits into the buffers on the way; all of it would be 25 MB.
    expect(sent).to.be.lessThan(16 * 1024 * 1024);
    socket.destroy();
    await gateway.close();
  });

  it('keeps each of several cookies, and headers that come twice', async () => {
    const gateway = await gatewayFor((_request, response) => {
      response.setHeader('set-cookie', ['a=1; Path=/', 'b=2; HttpOnly']);
      response.setHeader('link', ['</a>; rel=preload', '</b>; rel=preload']);
      response.writeHead(200, HTML).end('<body>x</body>');
    });
    const { headers, text } = await send({ port: gateway.port, host: 'mill.localhost' });
    expect(headers['set-cookie']).to.deep.equal(['a=1; Path=/', 'b=2; HttpOnly']);
    expect(headers['link']).to.equal('</a>; rel=preload, </b>; rel=preload');
    expect(text).to.equal('<body>x<i>end</i></body>');
    await gateway.close();
  });

  it('answers pages one after the other on one connection', async () => {
    const gateway = await gatewayFor((request, response) =>
      response.writeHead(200, HTML).end(`<body>${request.url}</body>`),
    );
    const socket = createConnection(gateway.port, '127.0.0.1');
    let text = '';
    socket.on('data', (data) => (text += data.toString()));
    for (const path of ['/1', '/2', '/3'])
      socket.write(`GET ${path} HTTP/1.1\r\nHost: mill.localhost\r\n\r\n`);
    await eventually(() => expect(text.match(/<i>end<\/i>/g)).to.have.length(3));
    expect([...text.matchAll(/<body>\/(\d)/g)].map((match) => match[1])).to.deep.equal(['1', '2', '3']);
    expect(text.match(/HTTP\/1\.1 200/g)).to.have.length(3);
    socket.destroy();
    await gateway.close();
  });

  it('takes the target in absolute form, and errors of the origin’s own as pages', async () => {
    const gateway = await gatewayFor((request, response) =>
      response.writeHead(404, HTML).end(`<body>${request.url}</body>`),
    );
    const { text, status } = await send({
      port: gateway.port,
      host: 'mill.localhost',
      path: 'http://mill.localhost/absolute?x=1',
    });
    expect([status, text]).to.deep.equal([404, '<body>/absolute?x=1<i>end</i></body>']);
    await gateway.close();
  });
});
