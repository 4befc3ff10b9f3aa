import { createServer } from 'node:http';
import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import { expect } from 'chai';
import { Line } from '../../packages/gateway/dist/one-line/line.js';
import { startGateway, HOST, type StartedGateway } from '../support/gateway.js';
import { eventually, send } from '../support/http.js';
import { part, set, snippet } from '../support/sets.js';

const snapshotWith = (code: string) => set(snippet('chat', { parts: [part('body-end', 0, code)] }));

describe('the one line at the gateway', () => {
  let gateway: StartedGateway;
  let served: Line | null | undefined;
  const origin = createServer((_request, response) => response.end('the origin’s'));

  beforeEach(async () => {
    served = new Line(snapshotWith('<script>chat()</script>'), 'live', 7);
    gateway = await startGateway([origin], {
      releases: {
        find: (host) =>
          host === HOST
            ? { host, site: 's', environment: 'live', origins: [address()], release: undefined }
            : undefined,
        line: (name) => (name === 's' ? served : undefined),
      },
    });
  });
  afterEach(() => gateway.close());

  const address = (): string => `http://127.0.0.1:${(origin.address() as { port: number }).port}`;
  const ask = (path: string, headers: Record<string, string> = {}, method = 'GET') =>
    send({ port: gateway.port, host: 'gateway.localhost', path, headers, method });

  it('points for a short time at a release that never changes', async () => {
    const pointer = await ask('/one/s.js');
    expect(pointer.status).to.equal(200);
    expect(pointer.headers['cache-control']).to.equal('public, max-age=60, stale-while-revalidate=600');
    expect(pointer.headers['content-type']).to.equal('text/javascript; charset=utf-8');
    expect(pointer.headers['access-control-allow-origin']).to.equal('*');
    expect(pointer.text).to.include(`"${served!.digest}"`).and.include('/* Pragmatica: release 7 */');
    const release = await ask(`/one/s/${served!.digest}.js`);
    expect(release.status).to.equal(200);
    expect(release.headers['cache-control']).to.equal('public, max-age=31536000, immutable');
    expect(release.text).to.include('<script>chat()</script>');
  });

  it('is sent packed, and not again where it is known', async () => {
    const path = `/one/s/${served!.digest}.js`;
    const plain = await ask(path);
    const brotli = await ask(path, { 'accept-encoding': 'gzip, br' });
    expect(brotli.headers['content-encoding']).to.equal('br');
    expect(brotliDecompressSync(brotli.body).toString()).to.equal(plain.text);
    const gzip = await ask(path, { 'accept-encoding': 'gzip' });
    expect(gunzipSync(gzip.body).toString()).to.equal(plain.text);
    for (const one of [path, '/one/s.js']) {
      const { etag } = (await ask(one)).headers;
      const again = await ask(one, { 'if-none-match': etag! });
      expect([again.status, again.body.length]).to.deep.equal([304, 0]);
    }
    const head = await ask(path, {}, 'HEAD');
    expect([head.status, head.body.length]).to.deep.equal([200, 0]);
    expect(Number(head.headers['content-length'])).to.equal(Buffer.byteLength(plain.text));
  });

  it('is sent as it is while a long one is being packed', async () => {
    served = new Line(snapshotWith(`<script>'${'chat '.repeat(20_000)}'</script>`), 'live', 7);
    const path = `/one/s/${served.digest}.js`;
    const first = await ask(path, { 'accept-encoding': 'br' });
    expect(first.headers['content-encoding']).to.equal(undefined);
    await eventually(async () => {
      const { headers, body } = await ask(path, { 'accept-encoding': 'br' });
      expect(headers['content-encoding']).to.equal('br');
      expect(brotliDecompressSync(body).equals(first.body)).to.equal(true);
    });
  });

  it('keeps a release for those who were pointed at it, and gives a whole one for what nobody remembers', async () => {
    const before = served!.digest;
    await ask(`/one/s/${before}.js`);
    served = new Line(snapshotWith('<script>other()</script>'), 'live', 8);
    expect(served.digest).not.to.equal(before);
    expect((await ask('/one/s.js')).text).to.include(served.digest);
    const kept = await ask(`/one/s/${before}.js`);
    expect(kept.text).to.include('chat()');
    expect(kept.headers['cache-control']).to.include('immutable');
    const unknown = await ask(`/one/s/${'0'.repeat(20)}.js`);
    expect(unknown.text).to.include('other()');
    expect(unknown.headers['cache-control']).to.equal('no-store');
  });

  it('does nothing while nothing is published, and is not there for no site', async () => {
    served = null;
    expect((await ask('/one/s.js')).text).to.equal('/* Pragmatica: nothing is published yet. */\n');
    expect((await ask('/one/unknown.js')).status).to.equal(421);
    expect((await ask('/one/s.js', {}, 'POST')).status).to.equal(421);
    expect((await ask('/one/../s.js')).status).to.equal(421);
  });

  it('leaves a site’s own addresses to the site', async () => {
    const own = await send({ port: gateway.port, host: HOST, path: '/one/s.js' });
    expect(own.text).to.equal('the origin’s');
  });

  it('breaks nobody’s page where a set cannot be made ready', async () => {
    const broken = { ...snapshotWith(''), snippets: null } as unknown as ReturnType<typeof snapshotWith>;
    served = new Line(broken, 'live', 9);
    const answer = await ask('/one/s.js');
    expect([answer.status, answer.headers['cache-control']]).to.deep.equal([200, 'no-store']);
  });
});
