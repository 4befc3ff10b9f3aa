import { brotliDecompressSync } from 'node:zlib';
import { expect } from 'chai';
import {
  ReleasePlanner,
  fragmentIncludes,
  fragmentName,
  fragmentPlacement,
  fragmentServer,
  insert,
  pageAddress,
  planPage,
  type Placement,
  type Snapshot,
} from '@pragmatica/core';
import { startGateway, type StartedGateway } from '../support/gateway.js';
import { send, type RawAnswer } from '../support/http.js';
import { startNginx, type Nginx } from '../support/nginx.js';
import { load, part, set, snippet } from '../support/sets.js';

const PHONE = 'Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) Mobile/15E148';
const PLACES: readonly Placement[] = [
  'head-start',
  'head-end',
  'body-start',
  { side: 'inside', anchor: 'place' },
  { side: 'before', anchor: 'für “alle”' },
  { side: 'inside-end', anchor: 'a.b#c' },
  { side: 'after', selector: 'main > h1' },
  { side: 'inside', selector: '.a[data-x="1/2"]' },
  'body-end',
];
const at = (key: string, placement: Placement, more = {}) =>
  snippet(key, { parts: [part(placement, 0, `<script>run("${key}")</script>`)], ...more });
const SNAPSHOT: Snapshot = set(
  ...PLACES.map((placement, i) => at(`p${i}`, placement)),
  at('fares', 'head-end', { pages: { include: ['/fares'], exclude: [] } }),
  at('phones', 'head-end', { limits: { devices: ['phone'] } }),
);

describe('fragments of a page', () => {
  let gateway: StartedGateway;
  let release: { number: number; digest: string; planner: ReleasePlanner } | null;

  before(async () => {
    gateway = await startGateway([], {
      releases: { find: () => undefined, served: (name) => (name === 's' ? release : undefined) },
    });
  });
  beforeEach(() => {
    release = { number: 7, digest: 'ab'.repeat(32), planner: new ReleasePlanner(SNAPSHOT) };
  });
  after(() => gateway.close());

  const ask = (path: string, headers: Record<string, string> = {}, method = 'GET'): Promise<RawAnswer> =>
    send({ port: gateway.port, host: 'gateway.localhost', path, headers, method });
  const planned = (path: string, placement: string, change = {}): string =>
    planPage(SNAPSHOT, load(path, change))
      .parts.filter((one) => fragmentName(one.placement) === placement)
      .map(({ code }) => code)
      .join('');

  it('are what the plan gives the page there, in order', async () => {
    for (const placement of PLACES.map(fragmentName))
      for (const path of ['/', '/fares', '/fares?day=2'])
        expect((await ask(`/fragments/s/${placement}?path=${path}`)).text, `${placement} ${path}`).to.equal(
          planned(path, placement),
        );
    const encoded = await ask(`/fragments/s/head-end?path=${encodeURIComponent('/fares')}`);
    expect(encoded.text).to.equal(planned('/fares', 'head-end'));
  });

  it('say what they depend on, and how long they may be kept', async () => {
    const phone = await ask('/fragments/s/head-end?path=/', { 'user-agent': PHONE });
    expect(phone.text).to.equal(planned('/', 'head-end', { device: 'phone' }));
    expect(phone.headers).to.include({
      'content-type': 'text/html; charset=utf-8',
      'cache-control': 'public, max-age=5, stale-while-revalidate=30, stale-if-error=86400',
    });
    expect(phone.headers['vary']).to.match(/User-Agent.*, Accept-Encoding$/i);
    const again = await ask('/fragments/s/head-end?path=/', {
      'user-agent': PHONE,
      'if-none-match': phone.headers['etag']!,
    });
    expect([again.status, again.text]).to.deep.equal([304, '']);
    const desktop = await ask('/fragments/s/head-end?path=/');
    expect(desktop.headers['etag'])
      .to.match(/^"[\w-]+"$/)
      .and.not.equal(phone.headers['etag']);
    const packed = await ask('/fragments/s/head-end?path=/', { 'accept-encoding': 'br' });
    expect(brotliDecompressSync(packed.body).toString()).to.equal(desktop.text);
    expect((await ask('/fragments/s/head-end?path=/', {}, 'HEAD')).body.length).to.equal(0);
  });

  it('are the whole plan as JSON, for templates', async () => {
    const { headers, text } = await ask('/fragments/s.json?path=/fares');
    expect(headers['content-type']).to.equal('application/json');
    const plan = JSON.parse(text) as { release: number; placements: Record<string, string> };
    expect(plan.release).to.equal(7);
    expect(plan.placements['head-end']).to.equal(planned('/fares', 'head-end'));
    expect(plan.placements['inside:#place']).to.equal(planned('/fares', 'inside:place'));
  });

  it('are empty where there is nothing, and never an error in the middle of a page', async () => {
    for (const [path, status] of [
      ['/fragments/other/head-end', 404],
      ['/fragments/s/nowhere', 404],
      ['/fragments/s', 404],
      ['/fragments/s/inside:%E0%A4%A', 404],
      ['/fragments/s/head-end?path=%', 200],
      [`/fragments/s/head-end?path=/${'a'.repeat(5_000)}`, 200],
    ] as const) {
      const answer = await ask(path);
      expect(answer.status, path).to.equal(status);
      if (status === 404) expect(answer.text, path).to.equal('');
    }
    release = null;
    expect(await ask('/fragments/s/head-end')).to.include({ status: 200, text: '' });
    release = {
      ...{ number: 7, digest: '' },
      planner: {
        page() {
          throw new Error('broken');
        },
      } as never,
    };
    expect(await ask('/fragments/s/head-end')).to.include({ status: 200, text: '' });
    expect((await ask('/fragments/s/head-end', {}, 'POST')).status).to.equal(405);
  });

  it('have names that can be read back', () => {
    for (const placement of PLACES)
      expect(fragmentPlacement(fragmentName(placement))).to.deep.equal(placement);
  });
});

describe('a page that nginx puts together by server-side includes', function () {
  this.timeout(30_000);
  let gateway: StartedGateway;
  let nginx: Nginx;
  const page = (placed: (name: string) => string): string =>
    `<!DOCTYPE html><html><head>${placed('head-start')}<title>t</title>${placed('head-end')}</head><body>${placed(
      'body-start',
    )}<p id="place">${placed('inside:place')}x</p>${placed('body-end')}</body></html>`;
  const snapshot = set(
    ...(
      ['head-start', 'head-end', 'body-start', { side: 'inside', anchor: 'place' }, 'body-end'] as const
    ).map((placement, i) => at(`p${i}`, placement)),
    at('fares', 'head-end', { pages: { include: ['/fares.html'], exclude: [] } }),
    at('here', 'head-end', { pages: { include: ['//www.site.localhost/*'], exclude: [] } }),
    at('there', 'head-end', { pages: { include: ['//www.other.localhost/*'], exclude: [] } }),
    at('phones', 'body-end', { limits: { devices: ['phone'] } }),
  );

  before(async () => {
    const release = { number: 7, digest: 'ab'.repeat(32), planner: new ReleasePlanner(snapshot) };
    gateway = await startGateway([], { releases: { find: () => undefined, served: () => release } });
    const base = `http://127.0.0.1:${gateway.port}/fragments`;
    const written = new Map(fragmentIncludes(base, 's').map(({ placement, ssi }) => [placement, ssi]));
    const include = (name: string): string =>
      written.get(name) ?? written.get('head-end')!.replace('head-end', name);
    nginx = await startNginx(
      { 'index.html': page(include), 'fares.html': page(include) },
      fragmentServer(base, 's'),
    );
  });
  after(async () => {
    await nginx.close();
  });

  const got = (path: string, headers: Record<string, string> = {}): Promise<RawAnswer> =>
    send({ port: nginx.port, host: 'www.site.localhost', path, headers });
  const bare = page(() => '');

  for (const [path, headers, change] of [
    ['/', {}, {}],
    ['/fares.html?from=home&to=fares', {}, {}],
    ['/', { 'user-agent': PHONE }, { device: 'phone' }],
    ['/', { 'accept-encoding': 'gzip, br' }, {}],
  ] as const)
    it(`is what insertion makes of it: ${path} ${Object.keys(headers).join()}`, async () => {
      const { parts } = planPage(snapshot, {
        ...load(path, change),
        page: pageAddress(path, 'www.site.localhost'),
      });
      const answer = await got(path, headers);
      expect(answer.text).to.equal(Buffer.from(insert(bare, parts).page).toString());
    });

  it('is whole, though the browser knows a fragment already', async () => {
    const path = '/fragments/s/head-start?path=/';
    const { headers } = await send({ port: gateway.port, host: 'gateway.localhost', path });
    const { text } = await got('/', { 'if-none-match': headers['etag']! });
    expect(text).to.include('run("p0")').and.include('run("p4")');
  });

  it('goes out without ours while we are away', async () => {
    await gateway.close();
    const since = Date.now();
    const { status, text } = await got('/');
    expect([status, text]).to.deep.equal([200, bare]);
    expect(Date.now() - since).to.be.lessThan(20_000);
  });
});
