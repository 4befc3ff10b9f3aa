import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { createClient, type ApiClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { expect } from 'chai';
import pg from 'pg';
import { restore, settled, sql, takeBackup } from '../support/backups.js';
import { eventually } from '../support/http.js';
import { startProcess, type RunningProcess } from '../support/service-process.js';
import { stageEnvironment, startStage, type Stage } from '../support/stage.js';

/** Real processes, killed in the middle of what they do. */
describe('drills', function () {
  this.timeout(120_000);
  let stage: Stage;
  let folder: string;
  let backups: string;

  before(async () => {
    stage = await startStage({ hasDemo: false });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-drill-'));
    backups = join(folder, 'kept');
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
  });
  after(async () => {
    await stage.close();
    rmSync(folder, { recursive: true, force: true });
  });

  const environment = (databaseUrl: string): Record<string, string> => ({
    ...stageEnvironment(folder),
    PRAGMATICA_BACKUPS: backups,
    DATABASE_URL: databaseUrl,
  });

  it('a worker killed while it makes a backup leaves no half of it, and the next one is made', async () => {
    const first = await startProcess('worker-main.js', environment(stage.databaseUrl));
    // Whoever holds a table holds up the backup at its beginning.
    const holder = new pg.Client({ connectionString: stage.databaseUrl });
    await holder.connect();
    await holder.query('begin; lock table snippet in access exclusive mode');
    const { data: asked } = await stage.client.call('askForBackup', {});
    await eventually(async () => {
      const [row] = await sql<{ state: string }>(stage, 'select state from backup where id = $1', [asked.id]);
      expect(row!.state).to.equal('running');
    });
    await first.kill();
    await holder.end();
    expect(readdirSync(backups).filter((name) => name.endsWith('.gz'))).to.deep.equal([]);
    await sql(stage, `update backup set beat_at = now() - interval '2 minutes' where id = $1`, [asked.id]);
    const second = await startProcess('worker-main.js', environment(stage.databaseUrl));
    try {
      const gone = await settled(stage, asked.id);
      expect(gone.problem).to.equal('Whatever made it has stopped. The next one is made as planned.');
      const { data: again } = await stage.client.call('askForBackup', {});
      expect(await settled(stage, again.id)).to.include({ state: 'done' });
      expect(readdirSync(backups).filter((name) => name.endsWith('.gz'))).to.have.length(1);
    } finally {
      await second.close();
    }
  });

  it('a service killed while it restores leaves an installation that is empty, and can be restored', async () => {
    const backup = await takeBackup(stage);
    const target = await startStage({ hasDemo: false });
    const clientOf = ({ address }: RunningProcess): ApiClient =>
      createClient({ server: address, token: target.token, fetch: localhostFetch });
    const first = await startProcess('main.js', environment(target.databaseUrl));
    let isUnderWay = false;
    async function* half() {
      yield backup.subarray(0, backup.length - 2_000);
      await new Promise(() => undefined);
    }
    const bytes = Readable.toWeb(Readable.from(half())) as ReadableStream<Uint8Array>;
    const upload = { type: 'application/x-tar', bytes };
    const restoring = (async () => {
      const events = clientOf(first).upload('restoreBackup', { query: {} }, upload);
      for await (const { type } of events) isUnderWay ||= type === 'loading' || type === 'begun';
    })().catch(() => 'broke off');
    await eventually(() => expect(isUnderWay).to.equal(true));
    await first.kill();
    expect(await restoring).to.equal('broke off');
    const second = await startProcess('main.js', environment(target.databaseUrl));
    try {
      expect(await sql(target, 'select from site')).to.have.length(0);
      await eventually(async () => {
        const left = `select from pg_namespace where nspname = 'pragmatica_backup'`;
        expect(await sql(target, left)).to.have.length(0);
      });
      await restore({ ...target, client: clientOf(second) }, backup);
      expect(await sql(target, 'select "key" from site')).to.deep.equal([{ key: 'mill' }]);
    } finally {
      await second.close();
      await target.close();
    }
  });
});
