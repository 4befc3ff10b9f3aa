import { expect } from 'chai';
import { eventually, send } from '../support/http.js';
import { refusal } from '../support/refusal.js';
import { sql } from '../support/backups.js';
import { startStage, type Stage } from '../support/stage.js';

const params = { site: 'skerrywick' };

/** The database answers as it does where its disk is full (SQLSTATE 53100) whenever one of the tables grows. */
const FULL = `create function full_disk() returns trigger language plpgsql as
  $$ begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$`;

describe('drills: a full disk', function () {
  this.timeout(60_000);
  let stage: Stage;
  before(async () => {
    stage = await startStage();
    await sql(stage, FULL);
  });
  after(() => stage.close());

  const fill = (table: string) =>
    sql(stage, `create trigger full_disk before insert or update on ${table} execute function full_disk()`);
  const makeRoom = (table: string) => sql(stage, `drop trigger full_disk on ${table}`);
  const page = () => send({ port: stage.gatewayPort, host: 'skerrywick.localhost' });

  for (const [table, act] of [
    [
      'part',
      () =>
        stage.client.call('createSnippet', {
          params,
          body: { key: 'late', name: 'Late', parts: [{ placement: 'head-end', code: '<meta name="late">' }] },
        }),
    ],
    [
      'pointer',
      () =>
        stage.client.call('publish', { params, ifMatch: '*', body: { message: 'Late', force: 'A drill' } }),
    ],
    [
      'audit',
      () => stage.client.call('createInvitation', { body: { name: 'Orla', role: 'view', sites: [] } }),
    ],
  ] as const)
    it(`is said, and nothing is half done, where “${table}” cannot grow`, async () => {
      const before = await state();
      await fill(table);
      try {
        const refused = await refusal(act());
        expect(refused).to.include({ status: 503, id: 'disk-full' });
        expect(refused.detail).to.include('nothing was saved');
        expect(await state()).to.deep.equal(before);
        expect((await page()).text).to.include('consent.js');
      } finally {
        await makeRoom(table);
      }
      await act();
      await eventually(async () => expect(await state()).not.to.deep.equal(before));
    });

  /** All that these could leave half done. */
  async function state() {
    const tables = ['snippet', 'part', 'release', 'pointer', 'audit', 'trail_link', 'invitation'];
    const counts = tables.map((table) => `(select count(*)::int from ${table}) as ${table}`);
    const [row] = await sql(stage, `select ${counts.join()}, (select max(release_id) from pointer) as live`);
    return row;
  }
});
