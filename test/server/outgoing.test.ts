import { createServer } from 'node:http';
import { expect } from 'chai';
import { readSettings, startService } from '@pragmatica/server';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isLocalAddress, isLocalHost } from '@pragmatica/contract/node';
import { SiteClient, siteUrl } from '../../packages/server/dist/outgoing/site-client.js';
import { api, eventually } from '../support/http.js';
import { ADMIN, createDatabase, listen, stageEnvironment, startStage } from '../support/stage.js';

describe('what the service asks of sites itself', () => {
  it('stays on the site, whatever a path looks like', () => {
    const base = 'http://origin.example:8080';
    for (const path of [
      '//127.0.0.1:5432/',
      '/\\127.0.0.1/',
      '\\\\evil.example/',
      'http://evil.example/',
      '@evil.example/',
      '/../../..//evil.example',
      ':80@evil.example/',
      '/%2f%2fevil.example',
      '?//evil.example',
      '',
    ])
      expect(siteUrl(base, path).origin, path).to.equal(base);
  });

  it('knows which addresses are not public', () => {
    const local = [
      ...[
        '127.0.0.1',
        '127.9.9.9',
        '10.1.2.3',
        '172.16.0.1',
        '172.31.255.255',
        '192.168.0.1',
        '169.254.169.254',
      ],
      ...['0.0.0.0', '100.64.0.1', '224.0.0.1', '255.255.255.255', '192.0.2.1', '198.18.0.1', '240.0.0.1'],
      ...[
        '::1',
        '::',
        'fe80::1',
        'fd00::1',
        'fc00::1',
        '::ffff:127.0.0.1',
        '::ffff:10.0.0.1',
        '64:ff9b::7f00:1',
      ],
      ...['ff02::1', '2002:7f00:1::', 'not an address'],
    ];
    for (const address of local) expect(isLocalAddress(address), address).to.equal(true);
    for (const address of ['172.32.0.1', '11.0.0.1', '192.169.0.1', '2000::1'])
      expect(isLocalAddress(address), address).to.equal(false);
    for (const host of ['localhost', 'a.localhost', '[::1]', '127.0.0.1'])
      expect(isLocalHost(host)).to.equal(true);
    for (const host of ['www.mill.example', '172.32.0.1']) expect(isLocalHost(host)).to.equal(false);
  });

  it('does not visit private addresses, written or looked up, unless the installation allows it', async () => {
    const { server, port } = await listen(createServer((_request, response) => response.end('secret')));
    const closed = new SiteClient(false);
    const open = new SiteClient(true);
    try {
      for (const base of [
        `http://127.0.0.1:${port}`,
        `http://localhost:${port}`,
        `http://[::ffff:7f00:1]:${port}`,
      ]) {
        const error = await closed.get(base, '/').catch((problem: unknown) => problem);
        const cause = error instanceof Error && error.cause instanceof Error ? error.cause : error;
        expect(String(cause), base).to.match(/private network/);
        const file = await closed
          .getElsewhere(new URL(`${base}/a.js`), {})
          .catch((problem: unknown) => problem);
        const why = file instanceof Error && file.cause instanceof Error ? file.cause : file;
        expect(String(why), base).to.match(/private network/);
      }
      expect(await (await open.get(`http://127.0.0.1:${port}`, '/')).text()).to.equal('secret');
    } finally {
      server.close();
      await closed.close();
      await open.close();
    }
  });

  it('follows redirects only where they stay with the site', async () => {
    const asked: string[] = [];
    const { server, port } = await listen(
      createServer((request, response) => {
        asked.push(request.url!);
        const to = {
          '/own': '/there',
          '/public': 'https://www.mill.example/there?x=1',
          '/off': 'http://elsewhere.example/there',
          '/loop': '/loop',
        }[request.url!];
        if (to === undefined) response.end('there');
        else response.writeHead(302, { location: to }).end();
      }),
    );
    const client = new SiteClient(true);
    const base = `http://127.0.0.1:${port}`;
    const get = (path: string) =>
      client.get(base, path, { redirects: 3, ownOrigins: ['https://www.mill.example'] });
    try {
      expect((await get('/own')).status).to.equal(200);
      expect((await get('/public')).status).to.equal(200);
      expect(asked).to.deep.equal(['/own', '/there', '/public', '/there?x=1']);
      expect((await get('/off')).status).to.equal(302);
      expect((await get('/loop')).status).to.equal(302);
      expect(asked.filter((path) => path === '/loop')).to.have.length(4);
      expect((await client.get(base, '/own')).status, 'unless asked to').to.equal(302);
    } finally {
      server.close();
      await client.close();
    }
  });

  it('is the host itself: that is said before anybody is locked in', async () => {
    const stage = await startStage({ hasDemo: false });
    try {
      const host = (name: string, origin: string, more = {}) => ({
        ...{ host: name, environment: 'live' as const, origin },
        ...more,
      });
      const attentionOf = async (key: string, hosts: ReturnType<typeof host>[]): Promise<string[]> => {
        await stage.client.call('createSite', { body: { key, name: key, hosts } });
        let kinds: string[] = [];
        await eventually(async () => {
          const { data } = await stage.client.call('showSite', { params: { site: key } });
          expect(data.isBeingChecked).to.equal(false);
          kinds = data.attention.map(({ kind }) => kind);
        });
        return kinds;
      };
      expect(await attentionOf('loop', [host('www.loop.example', 'http://www.loop.example')])).to.include(
        'own-origin',
      );
      for (const [key, one] of [
        ['apart', host('www.apart.example', 'http://origin.apart.example')],
        ['port', host('www.port.example', 'http://www.port.example:8080')],
        ['line', host('www.line.example', '', { delivery: 'line' })],
      ] as const)
        expect(await attentionOf(key, [one]), key).not.to.include('own-origin');
    } finally {
      await stage.close();
    }
  });

  it('is said where a site’s origin is such an address', async () => {
    const data = mkdtempSync(join(tmpdir(), 'pragmatica-local-'));
    const settings = readSettings({ ...stageEnvironment(data), PRAGMATICA_LOCAL_ORIGINS: '0' });
    const service = await startService(settings, await createDatabase(`outgoing_${process.pid}`));
    try {
      const signedIn = await api(service.address, undefined, 'POST', '/sign-in', {
        ...service.firstSignIn,
        newPassword: ADMIN.password,
        as: 'token',
      });
      const token = signedIn.json['token'] as string;
      const made = await api(service.address, token, 'POST', '/sites', {
        key: 'inside',
        name: 'Inside',
        timeZone: 'UTC',
        hosts: [
          { host: 'inside.example', environment: 'live', origin: 'http://127.0.0.7:8080', address: null },
        ],
      });
      expect(made.status).to.equal(201);
      await eventually(async () => {
        const { json } = await api(service.address, token, 'GET', '/sites/inside');
        const attention = json['attention'] as { kind: string; message: string }[];
        expect(attention.find(({ kind }) => kind === 'local-origin')?.message ?? '')
          .to.include('inside.example (http://127.0.0.7:8080)')
          .and.include('PRAGMATICA_LOCAL_ORIGINS=1');
      });
      const pages = await api(service.address, token, 'GET', '/sites/inside/pages');
      expect(pages.json['message']).to.include('127.0.0.7 is an address of a private network');
    } finally {
      await service.close();
      rmSync(data, { recursive: true, force: true });
    }
  });
});
