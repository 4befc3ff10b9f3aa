import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer as createHttpServer } from 'node:http';
import { createServer } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { DiagnosisResource } from '@pragmatica/contract';
import { expect } from 'chai';
import { sql } from '../support/backups.js';
import { cliRunner } from '../support/cli.js';
import { freePort } from '../support/free-port.js';
import { useConsole } from '../support/hooks.js';
import { listen, startStage, type Stage } from '../support/stage.js';

async function examined(stage: Stage): Promise<readonly DiagnosisResource[]> {
  let last;
  for await (const event of stage.client.stream('examineInstallation', {})) last = event;
  if (last?.type !== 'done') return expect.fail('It did not end.');
  return last.diagnoses;
}

const told = (all: readonly DiagnosisResource[]): Record<string, string> =>
  Object.fromEntries(all.map(({ id, about, health }) => [about === null ? id : `${id} ${about}`, health]));

describe('the doctor', function () {
  this.timeout(120_000);
  let stage: Stage;
  before(async () => {
    stage = await startStage({ hasWorker: true });
  });
  after(() => stage.close());

  it('finds a service with its worker, its gateway and the demo well', async () => {
    const all = await examined(stage);
    const { backups, ...others } = told(all);
    // The first one is made in the night.
    expect(backups).to.equal('warning');
    const wrong = Object.entries(others).filter(([, health]) => health !== 'well');
    expect(wrong).to.deep.equal([]);
    expect(Object.keys(others)).to.include.members([
      'schema',
      'workers',
      'gateways',
      'hosts skerrywick.localhost',
    ]);
  });

  it('tells what is missing, broken, sealed for somebody else or out of reach', async () => {
    const params = { site: 'skerrywick' };
    await stage.client.call('giveAccess', {
      params: { ...params, host: 'skerrywick.localhost' },
      body: { kind: 'basic', name: 'editor', value: 'lee shore: 42' },
    });
    await sql(
      stage,
      `update host_access set sealed = encode('nonsense that nobody has sealed'::bytea, 'base64')`,
    );
    await sql(stage, `delete from migration where name = (select max(name) from migration)`);
    await sql(
      stage,
      `insert into backup (state, problem, ended_at) values ('failed', 'The disk is full.', now())`,
    );
    const { server, port } = await listen(
      createServer({
        key: readFileSync('test/support/tls/origin-key.pem'),
        cert: readFileSync('test/support/tls/origin.pem'),
      }),
    );
    server.on('request', (_request, response) => {
      (response as { end(): void }).end();
    });
    const hosts = [
      ...[{ host: 'gone.example.test', environment: 'live' as const, origin: 'http://127.0.0.1:9' }],
      {
        host: 'secure.localhost',
        environment: 'live' as const,
        origin: `https://secure.localhost:${port}`,
        address: `https://secure.localhost:${port}`,
      },
    ];
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill', hosts } });
    const all = await examined(stage);
    server.close();
    expect(told(all)).to.include({
      ...{ schema: 'problem', seals: 'problem', backups: 'problem', workers: 'well' },
      ...{ 'hosts gone.example.test': 'problem', 'hosts secure.localhost': 'problem' },
    });
    const said = all.map((one) => one.said).join('\n');
    expect(said).to.include('failed: The disk is full.').and.include('skerrywick.localhost');
    expect(all.find(({ about }) => about === 'secure.localhost')!.said).to.match(
      /certificate|does not answer/i,
    );
  });

  it('says that no worker runs, and no gateway', async () => {
    const alone = await startStage({ hasDemo: false });
    const { workers } = told(await examined(alone));
    expect(workers).to.equal('problem');
    await alone.close();
  });

  it('knocks where the installation is reached, and tells who answers there', async () => {
    const [console, preview, gateway] = [await freePort(), await freePort(), await freePort()];
    const other = await listen(createHttpServer((_, response) => response.end('somebody else')));
    const wide = await startStage({
      hasDemo: false,
      settings: {
        PRAGMATICA_PORT: String(console),
        PRAGMATICA_PREVIEW_PORT: String(preview),
        PRAGMATICA_GATEWAY_PORT: String(gateway),
      },
    });
    const live = { environment: 'live' as const, origin: 'http://127.0.0.1:9' };
    const hosts = [{ ...live, host: 'mill.localhost', address: `http://localhost:${gateway}` }];
    await wide.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill', hosts } });
    const ports = async (of: Stage) =>
      Object.fromEntries(
        Object.entries(told(await examined(of))).filter(([name]) => name.startsWith('ports')),
      );
    expect(await ports(wide)).to.deep.equal({
      [`ports http://localhost:${console}`]: 'well',
      [`ports http://preview.localhost:${preview}`]: 'well',
      [`ports http://127.0.0.1:${gateway}`]: 'well',
    });
    // Somebody takes its port while it is down.
    await wide.gateway.close();
    const thief = createHttpServer((_, response) => response.end('mine'));
    await new Promise<void>((resolve) => thief.listen(gateway, '127.0.0.1', resolve));
    expect(await ports(wide)).to.include({ [`ports http://127.0.0.1:${gateway}`]: 'problem' });
    thief.close();
    // Without one, it is the gateway itself that is told of.
    expect(await ports(wide)).to.not.have.property(`ports http://127.0.0.1:${gateway}`);
    await wide.close();
    const lost = await startStage({
      hasDemo: false,
      settings: {
        PRAGMATICA_PORT: String(console),
        PRAGMATICA_ADDRESS: `http://localhost:${other.port}`,
        PRAGMATICA_PREVIEW_PORT: String(preview),
        PRAGMATICA_PREVIEW_ADDRESS: `http://nowhere.localhost:${await freePort()}`,
      },
    });
    expect(Object.values(await ports(lost))).to.deep.equal(['problem', 'warning']);
    await lost.close();
    other.server.close();
  });

  it('asks no private address where the installation may not, and goes on', async () => {
    const closed = await startStage({ hasDemo: false, settings: { PRAGMATICA_LOCAL_ORIGINS: '0' } });
    const live = { environment: 'live' as const, origin: 'https://10.0.0.1' };
    const hosts = [
      { ...live, host: 'private.example.test', address: 'https://10.0.0.1' },
      { ...live, host: 'six.example.test', address: 'https://[::1]:8443' },
    ];
    await closed.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill', hosts } });
    const all = await examined(closed);
    expect(told(all)).to.include({
      'hosts private.example.test': 'problem',
      'hosts six.example.test': 'problem',
    });
    expect(all.find(({ about }) => about === 'private.example.test')!.said).to.include('10.0.0.1');
    await closed.close();
  });

  it('ends with a status on the command line, and shows only what is wrong when asked', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'pragmatica-doctor-'));
    const run = cliRunner(() => stage.server, folder);
    const env = { PRAGMATICA_TOKEN: stage.token, COLUMNS: '200' };
    const all = await run(['doctor'], { env });
    expect(all.code).to.equal(1);
    expect(all.out).to.match(/^✓ Workers: One worker is running\.$/m);
    expect(all.out).to.match(/^✗ Sealed secrets: Sealed with another key/m);
    expect(all.out).to.match(/^ +→ Set PRAGMATICA_SECRET_KEY/m);
    const wrong = await run(['doctor', '--only-wrong'], { env });
    expect(wrong.out).to.not.include('✓');
    const json = JSON.parse((await run(['doctor', '--json'], { env })).out) as { id: string }[];
    expect(json[0]!.id).to.equal('schema');
    rmSync(folder, { recursive: true });
  });
});

describe('the doctor in the console', function () {
  this.timeout(120_000);
  const started = useConsole();

  it('shows what is to be mended first, with what to do, and looks again', async () => {
    const { page } = started();
    await page.goto('/');
    await page.getByRole('button', { name: 'admin' }).click();
    await page.getByRole('menuitem', { name: 'Health' }).click();
    const wrong = page.getByRole('region', { name: 'Needs attention' });
    await wrong.getByText('No worker is running').waitFor();
    await wrong.getByText('Start one with pragmatica-worker').waitFor();
    await wrong.getByRole('img', { name: 'Problem' }).first().waitFor();
    await page.getByRole('region', { name: 'In order' }).getByText('The database answers').waitFor();
    await page.getByRole('button', { name: 'Look again' }).click();
    await wrong.getByText('No worker is running').waitFor();
  });
});
