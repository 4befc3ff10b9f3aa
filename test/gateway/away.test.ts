import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { createProviderServer, createSiteServer, seed } from '@pragmatica/demo';
import { ReleaseFile, ReleaseFileError, readSettings, startService, type Service } from '@pragmatica/server';
import { expect } from 'chai';
import pg from 'pg';
import { eventually, send } from '../support/http.js';
import { ADMIN, createDatabase, listen } from '../support/stage.js';

const HOST = 'skerrywick.localhost';

describe('the gateway while the database is away', function () {
  this.timeout(180_000);
  let data: string;
  let databaseUrl: string;
  let service: Service | undefined;
  let site: Awaited<ReturnType<typeof listen>>;
  let providers: Awaited<ReturnType<typeof listen>>;

  const start = (): Promise<Service> =>
    startService(
      readSettings({
        PRAGMATICA_PORT: '0',
        PRAGMATICA_GATEWAY_PORT: '0',
        PRAGMATICA_LOG_LEVEL: 'silent',
        PRAGMATICA_DATA: data,
      }),
      databaseUrl,
    );
  const page = () => send({ port: service!.gatewayPort, host: HOST, path: '/' });
  const file = (): string => join(data, 'gateway', readdirSync(join(data, 'gateway'))[0]!);

  async function sql(statement: string): Promise<void> {
    const url = new URL(databaseUrl);
    url.pathname = '/postgres';
    const client = new pg.Client({ connectionString: url.href });
    await client.connect();
    await client.query(statement);
    await client.end();
  }

  before(async () => {
    data = mkdtempSync(join(tmpdir(), 'pragmatica-away-'));
    databaseUrl = await createDatabase(`away_${process.pid}`);
    providers = await listen(createProviderServer());
    site = await listen(createSiteServer(providers.port));
    service = await start();
    const visitor = createClient({ server: service.address, fetch: localhostFetch });
    const { password } = service.firstSignIn!;
    const body = { login: 'admin', password, newPassword: ADMIN.password, as: 'token' } as const;
    const token = (await visitor.call('signIn', { body })).data.token!;
    await seed({
      server: service.address,
      token,
      gatewayPort: service.gatewayPort,
      sitePort: site.port,
      providerPort: providers.port,
    });
    await eventually(async () => expect((await page()).headers['pragmatica-release']).to.equal('1'));
    await service.close();
    service = undefined;
    await eventually(() => sql(`alter database away_${process.pid} rename to away_hidden_${process.pid}`));
  });
  afterEach(async () => {
    await service?.close();
    service = undefined;
  });
  after(() => {
    for (const { server } of [site, providers]) server.close();
    rmSync(data, { recursive: true, force: true });
  });

  it('starts with the last release on disk; the API says what is missing, and comes back with the database', async () => {
    service = await start();
    const answer = await page();
    expect([answer.status, answer.headers['pragmatica-release']]).to.deep.equal([200, '1']);
    const api = await fetch(`${service.address}/api/v1/sites`);
    expect(api.status).to.equal(503);
    expect(api.headers.get('content-type')).to.equal('application/problem+json');
    expect(((await api.json()) as { detail: string }).detail).to.include('Visitors get their pages');
    await sql(`alter database away_hidden_${process.pid} rename to away_${process.pid}`);
    await eventually(
      async () => expect((await fetch(`${service!.address}/readyz`)).status).to.equal(200),
      10_000,
    );
    await service.close();
    service = undefined;
    await eventually(() => sql(`alter database away_${process.pid} rename to away_hidden_${process.pid}`));
  });

  it('does not start from a file that is not as it was written', async () => {
    const whole = readFileSync(file(), 'utf8');
    for (const broken of [whole.replace('Tallymast', 'Tollymast'), whole.slice(0, -20), '{}']) {
      writeFileSync(file(), broken);
      const refused = await new ReleaseFile(file()).read().catch((error: unknown) => error);
      expect(refused).to.be.instanceOf(ReleaseFileError);
      expect(await start().catch((error: unknown) => String(error))).to.match(/does not answer/);
    }
    writeFileSync(file(), whole);
    service = await start();
    expect((await page()).headers['pragmatica-release']).to.equal('1');
  });

  it('does not start from the file of another database', async () => {
    const url = databaseUrl;
    databaseUrl = url.replace(/\/[^/]*$/, '/never_was');
    expect(await start().catch((error: unknown) => String(error))).to.match(/never_was .*does not answer/);
    databaseUrl = url;
  });
});
