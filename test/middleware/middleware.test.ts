import { createServer, type RequestListener, type Server } from 'node:http';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import express from 'express';
import fc from 'fast-check';
import {
  FactsCache,
  ReleasePlanner,
  hashSource,
  insert,
  pageAddress,
  planPage,
  policyNeedsOf,
  type Snapshot,
} from '@pragmatica/core';
import { localhostFetch } from '@pragmatica/contract/node';
import { ReleaseFollower, insertParts, withParts, type Releases } from '@pragmatica/middleware';
import { eventually, send, type RawAnswer } from '../support/http.js';
import { propertyRuns } from '../support/property-runs.js';
import { load, part, set, snippet } from '../support/sets.js';
import { listen, startStage, type Stage } from '../support/stage.js';

const HOST = 'www.site.example';
const PAGE =
  '<!DOCTYPE html><html><head><meta charset="utf-8"><title>Fähre</title></head><body><p id="place">x</p></body></html>';
const PHONE = 'Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) Mobile/15E148';
const SNAPSHOT: Snapshot = set(
  snippet('counter', { parts: [part('head-end', 0, '<script>count("ü")</script>')] }),
  snippet('button', { parts: [part({ anchor: 'place', side: 'inside' }, 0, '<b>Book</b>')] }),
  snippet('fares', {
    pages: { include: ['/fares'], exclude: [] },
    parts: [part('body-end', 0, '<script>fares()</script>')],
  }),
  snippet('phones', {
    pages: { include: ['/phones'], exclude: [] },
    limits: { devices: ['phone'] },
    parts: [part('body-end', 1, '<script>phones()</script>')],
  }),
);
const fixed = (snapshot: Snapshot): Releases => ({
  release: {
    number: 7,
    digest: 'ab',
    planner: new ReleasePlanner(snapshot),
    needs: () => policyNeedsOf(snapshot, 'live', new FactsCache()),
  },
});
/** What the page should be, as insertion makes it. */
const planned = (path: string, html: string = PAGE, change = {}): string => {
  const { parts } = planPage(SNAPSHOT, { ...load(path, change), page: pageAddress(path, HOST) });
  return Buffer.from(insert(html, parts).page).toString();
};

describe('pages of somebody’s own Node server', () => {
  const servers: Server[] = [];
  async function serve(
    listener: RequestListener,
  ): Promise<(path: string, headers?: Record<string, string>, method?: string) => Promise<RawAnswer>> {
    const { server, port } = await listen(createServer(listener));
    servers.push(server);
    return (path, headers = {}, method = 'GET') => send({ port, host: HOST, path, headers, method });
  }
  afterEach(() => servers.splice(0).forEach((server) => server.close()));

  function application(releases: Releases = fixed(SNAPSHOT)) {
    const app = express();
    app.use(insertParts(releases));
    app.get('/file', (_request, response) => void response.type('json').send({ html: PAGE }));
    app.get('/packed', (_request, response) => {
      response.setHeader('content-encoding', 'br');
      response.type('html').end('packed');
    });
    app.get(
      '/kept',
      (_request, response) => void response.set('cache-control', 'no-transform').type('html').send(PAGE),
    );
    const below = express.Router();
    below.get('/deep', (_request, response) => void response.type('html').send(PAGE));
    app.use('/mounted', below);
    app.get('/{*path}', (_request, response) => void response.type('html').send(PAGE));
    return app;
  }

  it('get what insertion puts into them, in Express', async () => {
    const ask = await serve(application());
    for (const path of ['/', '/fares', '/fares?day=2', '/mounted/deep']) {
      const answer = await ask(path);
      expect(answer.text, path).to.equal(planned(path));
      expect(answer.headers).to.include({ 'pragmatica-release': '7' });
      expect(answer.headers).not.to.have.property('content-length', String(Buffer.byteLength(PAGE)));
    }
    expect((await ask('/', {}, 'HEAD')).headers).to.include({ 'pragmatica-release': '7' });
  });

  it('leaves alone what is no page, is packed already, or must not be changed', async () => {
    const ask = await serve(application());
    expect(JSON.parse((await ask('/file')).text)).to.deep.equal({ html: PAGE });
    expect((await ask('/packed')).text).to.equal('packed');
    expect((await ask('/kept')).text).to.equal(PAGE);
    const none = await serve(application({ release: undefined }));
    expect((await none('/')).text).to.equal(PAGE);
  });

  it('understands conditions: a page that the client has is not sent again, one with other parts is', async () => {
    const releases = { ...fixed(SNAPSHOT) };
    const ask = await serve(application(releases));
    const first = await ask('/');
    const tag = first.headers['etag']!;
    expect(tag).to.match(/^W\/".*;pragmatica-\w+"$/);
    const again = await ask('/', { 'if-none-match': tag });
    expect([again.status, again.headers['etag']]).to.deep.equal([304, tag]);
    const other = set(snippet('counter', { parts: [part('head-end', 0, '<script>other()</script>')] }));
    Object.assign(releases, fixed(other));
    const now = await ask('/', { 'if-none-match': tag });
    expect(now.status).to.equal(200);
    expect(now.text).to.include('other()');
  });

  it('say what they depend on', async () => {
    const ask = await serve(application());
    const phone = await ask('/phones', { 'user-agent': PHONE });
    expect(phone.text).to.equal(planned('/phones', PAGE, { device: 'phone' }));
    expect(phone.headers['vary']).to.match(/User-Agent/i);
    const desktop = await ask('/phones');
    expect(desktop.text).to.equal(planned('/phones')).and.not.include('phones()');
    expect((await ask('/')).headers['vary']).to.equal(undefined);
  });

  it('get it however an application writes them', async () => {
    const writings: RequestListener[] = [
      (_request, response) =>
        response.writeHead(200, { 'Content-Type': 'text/html', 'Content-Length': 9 }).end(PAGE),
      (_request, response) =>
        response.writeHead(200, 'Fine', ['content-type', 'text/html']).end(PAGE, 'utf8'),
      (_request, response) => {
        response.setHeader('content-type', 'text/html');
        for (const letter of PAGE) response.write(letter);
        response.end();
      },
      (_request, response) => {
        response.setHeader('content-type', 'text/html');
        response.flushHeaders();
        response.write(Buffer.from(PAGE).toString('base64'), 'base64', () => response.end(() => undefined));
      },
    ];
    for (const writing of writings) {
      const put = insertParts(fixed(SNAPSHOT));
      const ask = await serve((request, response) => {
        put(request, response);
        writing(request, response);
      });
      expect((await ask('/fares')).text).to.equal(planned('/fares'));
    }
  });

  it('carry the nonce of their content policy, and extend it where that is wanted', async () => {
    const answerWith = (policy: string, settings = {}) => {
      const put = insertParts(fixed(SNAPSHOT), settings);
      return serve((request, response) => {
        put(request, response);
        response.writeHead(200, { 'content-type': 'text/html', 'content-security-policy': policy }).end(PAGE);
      });
    };
    const NONCED = "script-src 'nonce-r4nd0m'";
    const nonced = await (await answerWith(NONCED))('/');
    expect(nonced.text).to.include('<script nonce="r4nd0m">count(');
    expect(nonced.headers['content-security-policy']).to.equal(NONCED);
    const plain = await (await answerWith("script-src 'self'"))('/');
    expect(plain.headers['content-security-policy']).to.equal("script-src 'self'");
    const extended = await (await answerWith("script-src 'self'", { extendPolicy: true }))('/');
    expect(extended.headers['content-security-policy']).to.equal(
      `script-src 'self' ${hashSource('count("ü")')}`,
    );
    const answer = withParts(
      fixed(SNAPSHOT),
      new Request(`http://${HOST}/`),
      new Response(PAGE, {
        headers: { 'content-type': 'text/html', 'content-security-policy': NONCED },
      }),
    );
    expect(await answer.text()).to.include('nonce="r4nd0m"');
  });

  it('go out as they were made when anything of ours fails', async () => {
    const broken = {
      get release(): never {
        throw new Error('broken');
      },
    };
    expect((await (await serve(application(broken)))('/')).text).to.equal(PAGE);
    const planner = {
      page: () => ({
        isInReach: true,
        vary: [],
        until: () => Infinity,
        outcome: () => ({ tag: 'x', parts: {} }),
      }),
    };
    const unready = {
      release: { number: 1, digest: '', planner: planner as never, needs: () => new Map<string, never[]>() },
    };
    expect((await (await serve(application(unready)))('/')).text).to.equal(PAGE);
  });

  it('are the same in the Fetch API, in whatever pieces they come', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.nat(Buffer.byteLength(PAGE)), { maxLength: 6 }), async (cuts) => {
        const bytes = Buffer.from(PAGE);
        const ends = [...cuts.sort((a, b) => a - b), bytes.length];
        const body = new ReadableStream<Uint8Array>({
          start(controller) {
            ends.forEach((end, i) => controller.enqueue(bytes.subarray(ends[i - 1] ?? 0, end)));
            controller.close();
          },
        });
        const answer = new Response(body, { headers: { 'content-type': 'text/html', etag: '"a"' } });
        const got = withParts(fixed(SNAPSHOT), new Request(`https://${HOST}/fares`), answer);
        expect(await got.text()).to.equal(planned('/fares'));
        expect(got.headers.get('etag')).to.match(/^W\/"a;pragmatica-/);
      }),
      propertyRuns(40),
    );
    const plain = new Response('{}', { headers: { 'content-type': 'application/json' } });
    const got = withParts(fixed(SNAPSHOT), new Request(`https://${HOST}/`), plain);
    expect(await got.text()).to.equal('{}');
    const posted = withParts(fixed(SNAPSHOT), new Request(`https://${HOST}/`, { method: 'POST' }), plain);
    expect(posted).to.equal(plain);
  });
});

describe('a release that is followed', function () {
  this.timeout(60_000);
  let stage: Stage;
  let folder: string;
  const params = { site: 'own' };

  before(async () => {
    stage = await startStage({ hasDemo: false });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-follow-'));
    await stage.client.call('createSite', { body: { key: 'own', name: 'Own' } });
  });
  after(async () => {
    rmSync(folder, { recursive: true });
    await stage.close();
  });

  const follow = (change = {}): ReleaseFollower =>
    new ReleaseFollower({
      ...{ server: stage.server, token: stage.token, site: 'own', fetch: localhostFetch },
      ...{ copy: join(folder, 'copy.json'), everyMs: 50 },
      ...change,
    });
  async function publish(name: string): Promise<void> {
    const code = `<script>${name}()</script>`;
    await stage.client.call('createSnippet', {
      params,
      body: { name, parts: [{ placement: 'body-end', code }] },
    });
    const { etag } = await stage.client.call('showDraft', { params });
    await stage.client.call('publish', { params, ifMatch: etag, body: { message: name } });
  }
  const codes = ({ release }: ReleaseFollower): string =>
    release?.planner
      .plan(load('/'))
      .parts.map(({ code }) => code)
      .join('') ?? 'none';

  it('is nothing before anything is published, and there soon after', async () => {
    const follower = await follow().start();
    expect(codes(follower)).to.equal('none');
    await publish('first');
    await eventually(() => expect(codes(follower)).to.include('first()'));
    await publish('second');
    await eventually(() => expect(codes(follower)).to.include('second()'));
    await eventually(() => expect(readFileSync(join(folder, 'copy.json'), 'utf8')).to.include('second()'));
    follower.close();
  });

  it('is taken from the copy while the service is away, which is told once', async () => {
    const problems: unknown[] = [];
    const away = follow({
      server: 'http://127.0.0.1:9',
      onProblem: (error: unknown) => problems.push(error),
    });
    await away.start();
    expect(codes(away)).to.include('second()');
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(problems).to.have.length(1);
    away.close();
    const refused: unknown[] = [];
    const stranger = await follow({
      token: 'nobody',
      onProblem: (error: unknown) => refused.push(error),
    }).start();
    expect([codes(stranger).includes('second()'), refused.length]).to.deep.equal([true, 1]);
    stranger.close();
  });

  it('is not taken from a copy that is damaged, or of another site', async () => {
    const file = join(folder, 'copy.json');
    const text = readFileSync(file, 'utf8');
    for (const damaged of [text.replace('second()', 'evil()'), text.slice(0, 100), '{}']) {
      writeFileSync(file, damaged);
      const away = await follow({ server: 'http://127.0.0.1:9' }).start();
      expect(codes(away)).to.equal('none');
      away.close();
    }
    writeFileSync(file, text);
    const other = await follow({ server: 'http://127.0.0.1:9', site: 'other' }).start();
    expect(codes(other)).to.equal('none');
    other.close();
  });
});
