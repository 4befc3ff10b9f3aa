import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { createProviderServer, createSiteServer, seed } from '@pragmatica/demo';
import {
  FeedError,
  ReleaseFileError,
  openGateway,
  readGatewaySettings,
  releaseFiles,
  type RunningGateway,
} from '@pragmatica/gateway';
import { readSettings, startService, type Service } from '@pragmatica/server';
import { expect } from 'chai';
import pg from 'pg';
import { eventually, send } from '../support/http.js';
import { ADMIN, createDatabase, listen, stageEnvironment } from '../support/stage.js';

const HOST = 'skerrywick.localhost';

describe('the gateway while the database is away', function () {
  this.timeout(180_000);
  let data: string;
  let databaseUrl: string;
  let service: Service | undefined;
  let gateway: RunningGateway | undefined;
  let site: Awaited<ReturnType<typeof listen>>;
  let providers: Awaited<ReturnType<typeof listen>>;

  const startApi = (): Promise<Service> => startService(readSettings(stageEnvironment(data)), databaseUrl);
  const startGateway = (): Promise<RunningGateway> =>
    openGateway(readGatewaySettings(stageEnvironment(data)), databaseUrl);
  const page = () => send({ port: gateway!.port, host: HOST, path: '/' });
  const files = () => releaseFiles(readGatewaySettings(stageEnvironment(data)), databaseUrl);
  async function close(): Promise<void> {
    await gateway?.close();
    await service?.close();
    gateway = service = undefined;
  }

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
    service = await startApi();
    gateway = await startGateway();
    const visitor = createClient({ server: service.address, fetch: localhostFetch });
    const { password } = service.firstSignIn!;
    const body = { login: 'admin', password, newPassword: ADMIN.password, as: 'token' } as const;
    const token = (await visitor.call('signIn', { body })).data.token!;
    await seed({
      server: service.address,
      token,
      gatewayPort: gateway.port,
      sitePort: site.port,
      providerPort: providers.port,
    });
    await eventually(async () => expect((await page()).headers['pragmatica-release']).to.equal('1'));
    await close();
    await eventually(() => sql(`alter database away_${process.pid} rename to away_hidden_${process.pid}`));
  });
  afterEach(close);
  after(() => {
    for (const { server } of [site, providers]) server.close();
    rmSync(data, { recursive: true, force: true });
  });

  it('starts with the last release on disk, and follows the database again when it is back', async () => {
    gateway = await startGateway();
    service = await startApi();
    const answer = await page();
    expect([answer.status, answer.headers['pragmatica-release']]).to.deep.equal([200, '1']);
    const api = await fetch(`${service.address}/api/v1/sites`);
    expect(api.status).to.equal(503);
    expect(api.headers.get('content-type')).to.equal('application/problem+json');
    expect(((await api.json()) as { detail: string }).detail).to.include('Visitors still get their pages');
    await sql(`alter database away_hidden_${process.pid} rename to away_${process.pid}`);
    await eventually(
      async () => expect((await fetch(`${service!.address}/readyz`)).status).to.equal(200),
      10_000,
    );
    await eventually(async () => {
      const { data: token } = await createClient({
        server: service!.address,
        fetch: localhostFetch,
      }).call('signIn', { body: { login: 'admin', password: ADMIN.password, as: 'token' } });
      const client = createClient({ server: service!.address, token: token.token!, fetch: localhostFetch });
      await client.call('restoreRelease', {
        params: { site: 'skerrywick', environment: 'live' },
        ifMatch: '*',
        body: { release: 1 },
      });
    }, 10_000);
    await close();
    await eventually(() => sql(`alter database away_${process.pid} rename to away_hidden_${process.pid}`));
  });

  it('does not start from files that are not as they were written', async () => {
    const folder = files().folder;
    const state = join(folder, 'state.json');
    const release = join(
      folder,
      readdirSync(folder).find((name) => name.startsWith('release-'))!,
    );
    for (const [file, readsState] of [
      [state, false],
      [release, true],
    ] as const) {
      const whole = readFileSync(file, 'utf8');
      for (const broken of [whole.replace(/[Tt]allymast|digest/, 'tollymast'), whole.slice(0, -20), '{}']) {
        writeFileSync(file, broken);
        const read = async (): Promise<unknown> => {
          const kept = await files().readState();
          return files().readRelease(kept!.releases[0]!);
        };
        expect(await read().catch((error: unknown) => error)).to.be.instanceOf(ReleaseFileError);
        if (readsState) expect((await files().readState())?.releases).to.have.length(1);
        const refused = await startGateway().catch((error: unknown) => error);
        expect(refused).to.be.instanceOf(FeedError);
        expect(String(refused)).to.match(/does not answer/);
      }
      writeFileSync(file, whole);
    }
    gateway = await startGateway();
    expect((await page()).headers['pragmatica-release']).to.equal('1');
  });

  it('does not start from the files of another database; nor does the service wait for it', async () => {
    const url = databaseUrl;
    databaseUrl = url.replace(/\/[^/]*$/, '/never_was');
    for (const start of [startApi, startGateway])
      expect(await start().catch((error: unknown) => String(error))).to.match(/never_was .*does not answer/);
    databaseUrl = url;
  });
});
