import { expect } from 'chai';
import pg from 'pg';
import { ApiError, type HostResource, type VerificationEvent } from '@pragmatica/contract';
import { SiteClient } from '../../packages/server/dist/outgoing/site-client.js';
import { lookAtAddress } from '../../packages/server/dist/site/look-at-address.js';
import { startStage, type Stage } from '../support/stage.js';
import { addSite, ownSite, survey, type OwnSite } from '../support/surveys.js';
import { eventually, send } from '../support/http.js';

describe('the way of each host', function () {
  this.timeout(60_000);
  let stage: Stage;
  let site: OwnSite;
  const pages: Record<string, string> = {};
  const params = { site: 'ways' };

  before(async () => {
    stage = await startStage({ hasDemo: false });
    pages['/'] = '<!DOCTYPE html><html><head><title>t</title></head><body><p>x</p></body></html>';
    site = await ownSite(pages);
    await addSite(stage, 'ways', site.port);
    const code = '<noscript><p>Counted</p></noscript><script>count()</script>';
    await stage.client.call('createSnippet', {
      params,
      body: { name: 'Counter', parts: [{ placement: 'body-end', code }] },
    });
    const { etag } = await stage.client.call('showDraft', { params });
    await stage.client.call('publish', { params, ifMatch: etag, body: { message: 'Counter' } });
  });

  after(async () => {
    site.close();
    await stage.close();
  });

  async function edit(hosts: readonly Partial<HostResource>[]): Promise<readonly HostResource[]> {
    const { etag } = await stage.client.call('showSite', { params });
    const body = { hosts: hosts as HostResource[] };
    return (await stage.client.call('editSite', { params, ifMatch: etag, body })).data.hosts;
  }
  const refused = async (hosts: readonly Partial<HostResource>[]): Promise<unknown> => {
    try {
      return await edit(hosts);
    } catch (error) {
      return (error as ApiError).problem.errors?.map(({ pointer, detail }) => `${pointer}: ${detail}`);
    }
  };
  const hosts = async (): Promise<readonly HostResource[]> =>
    (await stage.client.call('showSite', { params })).data.hosts;
  const choose = async (delivery: HostResource['delivery']): Promise<void> => {
    await edit((await hosts()).map((one) => ({ ...one, delivery })));
  };
  const findings = async (): Promise<string[]> => {
    const { data } = await stage.client.call('listFindings', { params, query: {} });
    return data.items.filter(({ area }) => area === 'delivery').map(({ check }) => check);
  };
  async function verify(body: { host?: string } = {}): Promise<readonly VerificationEvent[]> {
    const events: VerificationEvent[] = [];
    for await (const event of stage.client.stream('verify', { params, body })) events.push(event);
    return events;
  }
  const states = async (): Promise<string> =>
    (await verify())
      .flatMap((event) => (event.type === 'page' ? event.parts.map(({ state }) => state) : []))
      .join();

  it('is the gateway where nothing is said, which needs to know the server behind the host', async () => {
    expect((await hosts()).map(({ delivery }) => delivery)).to.deep.equal(['gateway']);
    const [host] = await hosts();
    expect(await refused([{ ...host, origin: '' }])).to.deep.equal([
      '/hosts/0/origin: The gateway needs the address of the server that holds the pages.',
    ]);
    expect(await refused([{ ...host, delivery: 'smoke' as 'gateway' }])).to.have.length(1);
  });

  it('needs nothing but the address where the gateway does not stand before it', async () => {
    const saved = await edit([
      { host: 'shop.example', environment: 'live', delivery: 'line', address: 'https://shop.example' },
      { host: 'blog.example', environment: 'live', delivery: 'paste' },
    ]);
    expect(saved.map(({ origin }) => origin)).to.deep.equal(['https://shop.example', 'http://blog.example']);
  });

  it('decides whether the gateway puts anything into the pages, at once', async () => {
    const host = 'ways.localhost';
    const origin = `http://127.0.0.1:${site.port}`;
    const served = async (): Promise<boolean> =>
      (await send({ port: stage.gatewayPort, host, path: '/' })).text.includes('count()');
    const settles = (wanted: boolean): Promise<void> =>
      eventually(async () => expect(await served()).to.equal(wanted));
    await edit([{ host, environment: 'live', origin, delivery: 'gateway' }]);
    await settles(true);
    await choose('line');
    await settles(false);
    const line = await send({ port: stage.gatewayPort, host: 'lines.localhost', path: '/one/ways.js' });
    expect(line.status).to.equal(200);
    await choose('gateway');
    await settles(true);
  });

  it('decides what the checks tell, without the site being asked again', async () => {
    expect(await findings()).to.deep.equal([]);
    await choose('line');
    expect(await findings()).to.deep.equal(['without-script']);
    await choose('paste');
    expect(await findings()).to.deep.equal(['no-box']);
    const boxes = [{ kind: 'site-foot' as const, name: 'Footer code' }];
    await stage.client.call('setBoxes', { params, body: { boxes } });
    expect(await findings()).to.deep.equal([]);
  });

  it('decides how verification looks', async () => {
    const host = 'ways.localhost';
    const address = `http://ways.localhost:${site.port}`;
    await edit([{ host, environment: 'live', delivery: 'paste', address }]);
    const [start] = await verify({ host });
    expect(start).to.deep.equal({ type: 'start', total: 1, release: 1, address, host, delivery: 'paste' });
    expect(await states()).to.equal('missing');
    const { data } = await stage.client.call('showBlocks', { params, query: {} });
    const plain = pages['/']!;
    pages['/'] = plain.replace('</body>', `${data.blocks[0]!.text}</body>`);
    expect(await states()).to.equal('delivered');

    await choose('async-line');
    expect(await states()).to.equal('missing');
    const line = `<script async src="http://lines.localhost:${stage.gatewayPort}/one/ways.js"></script>`;
    pages['/'] = plain.replace('<head>', `<head>${line}`);
    expect(await states()).to.equal('delivered');
    pages['/'] = pages['/'].replace('ways.js', 'ways/0123456789abcdef0123.js');
    expect(await states()).to.equal('missing');
    await choose('folder');
    expect(await states()).to.equal('missing');
    pages['/'] = plain.replace(
      '</body>',
      '<noscript><p>Counted</p></noscript><script>count()</script></body>',
    );
    expect(await states()).to.equal('delivered');
  });

  it('is not verified at hosts of other sites', async () => {
    const error = await verify({ host: 'www.other.example' }).catch((caught: unknown) => caught);
    expect(error).to.be.instanceOf(ApiError);
    expect((error as ApiError).problem).to.include({ status: 404 });
  });

  it('is the gateway’s for a gateway that is newer than the database', async () => {
    const host = 'ways.localhost';
    const origin = `http://127.0.0.1:${site.port}`;
    await edit([{ host, environment: 'live', origin, delivery: 'line' }]);
    const database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    await database.query(`
      drop view gateway_host;
      create view gateway_host as
        select h.host, h.environment, h.origin, h.transfer, s.key as site, p.release_id as release
        from host h join site s on s.id = h.site_id
        left join pointer p on p.site_id = h.site_id and p.environment = h.environment;
      notify pragmatica_release;
    `);
    await database.end();
    pages['/'] = '<!DOCTYPE html><html><head><title>t</title></head><body><p>x</p></body></html>';
    await eventually(async () => {
      expect((await send({ port: stage.gatewayPort, host, path: '/' })).text).to.include('count()');
    });
  });
});

describe('a look at an address', function () {
  this.timeout(60_000);
  let stage: Stage;
  let site: OwnSite;

  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
    site = await ownSite({
      '/': '<title>Home | Tide Mill</title><script src="https://tallymast.example/count.js"></script><a href="/shop">x</a>',
      '/shop': '<title>Shop</title>',
    });
  });

  after(async () => {
    site.close();
    await stage.close();
  });

  const look = async (address: string) =>
    (await stage.client.call('lookAtAddress', { body: { address } })).data;
  const refused = async (address: string): Promise<[number, string]> => {
    const error = (await look(address).catch((caught: unknown) => caught)) as ApiError;
    const [field] = error.problem.errors ?? [];
    return [error.status, `${field?.pointer ?? ''} ${field?.detail ?? ''}`];
  };

  it('finds the site and what it calls itself', async () => {
    const address = `http://mill.localhost:${site.port}`;
    expect(await look(`mill.localhost:${site.port}/shop?x`)).to.deep.equal({
      ...{ address, host: 'mill.localhost', name: 'Tide Mill', title: 'Home | Tide Mill' },
      isRedirected: false,
    });
  });

  it('goes where it is sent, and finds what asks for a password', async () => {
    const address = `http://www.mill.localhost:${site.port}`;
    const moved = await ownSite({
      '/': (_request, response) => response.writeHead(301, { location: `${address}/` }).end(),
    });
    expect(await look(`mill.localhost:${moved.port}`)).to.deep.include({ address, isRedirected: true });
    moved.close();
    const locked = await ownSite({ '/': (_request, response) => response.writeHead(401).end('no') });
    const found = await look(`trial.localhost:${locked.port}`);
    expect(found).to.include({ name: 'trial.localhost', title: '' });
    locked.close();
  });

  it('says what is wrong with an address, at its field', async () => {
    const [status, detail] = await refused('Tide Mill');
    expect([status, detail]).to.deep.equal([
      422,
      '/address “Tide Mill” is not a site’s address. Write it as in a browser, like www.example.com.',
    ]);
    const gone = await ownSite({});
    gone.close();
    expect(await refused(`localhost:${gone.port}`)).to.deep.equal([
      422,
      `/address Nothing answers at localhost:${gone.port}. The name exists, but no web server answers there. Check the spelling. Does the site open in your browser?`,
    ]);
    const broken = await ownSite({});
    expect((await refused(`localhost:${broken.port}`))[1]).to.match(/its status is 404/);
    broken.close();
  });

  it('does not reach into private networks where the installation does not allow it', async () => {
    const error = await lookAtAddress(
      { client: new SiteClient(false), readers: undefined as never },
      `localhost:${site.port}`,
    ).catch((caught: unknown) => caught);
    expect(error)
      .to.be.instanceOf(Error)
      .with.property('message')
      .that.matches(/private/);
  });

  it('is followed by a small survey, which says in words what is there', async () => {
    const address = `http://mill.localhost:${site.port}`;
    const hosts = [
      { host: 'mill.localhost', environment: 'live' as const, delivery: 'line' as const, address },
    ];
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill', hosts } });
    await survey(stage, 'mill', { limit: 12, side: 'public' });
    const { data } = await stage.client.call('showFirstLook', { params: { site: 'mill', survey: 'latest' } });
    expect(data).to.deep.equal({
      ...{ survey: 1, host: 'mill.localhost', environment: 'live' },
      lines: ['All its 2 pages were read.', 'Already in them: Tallymast visit counter (on one page).'],
    });
  });
});

describe('a part that runs on every view', function () {
  this.timeout(60_000);
  let stage: Stage;
  const params = { site: 'app' };
  const of = { ...params, snippet: 'views' };

  before(async () => {
    stage = await startStage({ hasDemo: false });
    const hosts = [{ host: 'app.example', environment: 'live' as const, delivery: 'line' as const }];
    await stage.client.call('createSite', { body: { key: 'app', name: 'App', hosts } });
  });
  after(() => stage.close());

  const pers = async (): Promise<string> =>
    (await stage.client.call('showSnippet', { params: of })).data.parts.map(({ per }) => per).join();
  async function edit(body: object): Promise<void> {
    const { etag } = await stage.client.call('showSnippet', { params: of });
    await stage.client.call('editSnippet', { params: of, ifMatch: etag, body });
  }

  it('is said of it, stays when nothing is said, and is left out of releases where it is as usual', async () => {
    const parts = [
      { placement: 'head-end' as const, code: '<script>load()</script>' },
      { placement: 'body-end' as const, code: '<script>view()</script>', per: 'view' as const },
    ];
    await stage.client.call('createSnippet', { params, body: { name: 'Views', parts } });
    expect(await pers()).to.equal('load,view');
    await edit({ parts: parts.map(({ placement, code }) => ({ placement, code })) });
    expect(await pers()).to.equal('load,view');
    const { data, etag } = await stage.client.call('showDraft', { params });
    expect(data.snapshot.snippets[0]!.parts.map(({ per }) => per)).to.deep.equal([undefined, 'view']);
    await stage.client.call('publish', { params, ifMatch: etag, body: { message: 'Views' } });
    const { data: line } = await stage.client.call('showRelease', { params: { ...params, release: 1 } });
    expect(line.snapshot.snippets[0]!.parts.map(({ per }) => per)).to.deep.equal([undefined, 'view']);
  });

  it('is told of in differences, and as a finding where views go unnoticed', async () => {
    await edit({
      parts: [0, 1].map((i) => ({ placement: 'body-end', code: `<script>f(${i})</script>`, per: 'load' })),
    });
    const { data } = await stage.client.call('showDiff', {
      params,
      query: { from: 'live', to: 'draft' },
    });
    expect(JSON.stringify(data)).to.include('once for a page load, not again on each view.');
    await edit({ parts: [{ placement: 'body-end', code: '<script>f(1)</script>', per: 'view' }] });
    const checks = async (): Promise<string[]> => {
      const found = await stage.client.call('listFindings', { params, query: {} });
      return found.data.items.filter(({ area }) => area === 'delivery').map(({ check }) => check);
    };
    expect(await checks()).to.deep.equal([]);
    const { etag } = await stage.client.call('showSite', { params });
    const hosts = [{ host: 'app.example', environment: 'live' as const, delivery: 'folder' as const }];
    await stage.client.call('editSite', { params, ifMatch: etag, body: { hosts } });
    expect(await checks()).to.deep.equal(['view-unnoticed']);
  });
});
