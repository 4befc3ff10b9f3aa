import { expect } from 'chai';
import { ApiError, type HostResource, type VerificationEvent } from '@pragmatica/contract';
import { startStage, type Stage } from '../support/stage.js';
import { addSite, ownSite, type OwnSite } from '../support/surveys.js';
import { send } from '../support/http.js';

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
    const eventually = async (wanted: boolean): Promise<void> => {
      for (let tries = 0; (await served()) !== wanted && tries < 100; tries++)
        await new Promise((resolve) => setTimeout(resolve, 50));
      expect(await served()).to.equal(wanted);
    };
    await edit([{ host, environment: 'live', origin, delivery: 'gateway' }]);
    await eventually(true);
    await choose('line');
    await eventually(false);
    const line = await send({ port: stage.gatewayPort, host: 'lines.localhost', path: '/one/ways.js' });
    expect(line.status).to.equal(200);
    await choose('gateway');
    await eventually(true);
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
});
