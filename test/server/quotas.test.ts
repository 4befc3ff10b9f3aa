import { DEFAULT_LIMITS, QUOTAS, type Quota } from '@pragmatica/contract';
import { migrate, openDatabase, storeOf } from '@pragmatica/server';
import { expect } from 'chai';
import { keepLimits } from '../../packages/server/dist/storage/store-limits.js';
import { sweepSurveys } from '../../packages/server/dist/storage/surveys.js';
import { sweepRounds } from '../../packages/server/dist/storage/visit-rounds.js';
import { createDatabase } from '../support/stage.js';

type Orm = Awaited<ReturnType<typeof openDatabase>>;

const MANY = 100;

/** Keeps three things of a size, the first the oldest, and sweeps. @returns the numbers of those that are left */
type Fill = (orm: Orm, site: number, sizes: readonly number[]) => Promise<number[]>;

const FILL: Readonly<Record<Quota, Fill>> = {
  async 'evidence-megabytes'(orm, site, sizes) {
    const em = orm.em.fork();
    for (const [index, size] of sizes.entries()) {
      const [round] = await em.execute<{ id: number }[]>(
        `insert into visit_round (site_id, number, host, environment, delivery, options, requested_by, state)
         values (?, ?, 'quay.localhost', 'live', 'gateway', '{}', 'somebody', 'done') returning id`,
        [site, index + 1],
      );
      const [visit] = await em.execute<{ id: number }[]>(
        `insert into visit (round_id, number, path, title, because, script, evidence)
         values (?, 1, '/', '', '', '{}', convert_to(repeat('e', ?), 'UTF8')) returning id`,
        [round!.id, size / 2],
      );
      await em.execute(
        `insert into visit_screenshot (visit_id, number, image) values (?, 1, convert_to(repeat('i', ?), 'UTF8'))`,
        [visit!.id, size / 2],
      );
    }
    await sweepRounds(storeOf(orm).fork(), site, MANY);
    return numbersOf(orm, 'visit_round');
  },
  async 'surveyed-pages'(orm, site, sizes) {
    for (const [index, size] of sizes.entries())
      await orm.em.fork().execute(
        `insert into survey (site_id, number, host, environment, side, options, reader, requested_by, state, visited)
         values (?, ?, 'quay.localhost', 'live', 'public', '{}', 1, 'somebody', 'done', ?)`,
        [site, index + 1, size],
      );
    await sweepSurveys(storeOf(orm).fork(), site, MANY);
    return numbersOf(orm, 'survey');
  },
};

async function numbersOf(orm: Orm, table: string): Promise<number[]> {
  const rows = await orm.em
    .fork()
    .execute<{ number: number }[]>(`select number from ${table} order by number`);
  return rows.map(({ number }) => number);
}

describe('quotas of a site', function () {
  this.timeout(60_000);

  for (const quota of Object.keys(QUOTAS) as Quota[])
    it(`let the oldest go first, and never the newest: ${quota}`, async () => {
      const orm = await openDatabase(
        await createDatabase(`quota_${process.pid}_${quota.replaceAll('-', '_')}`),
      );
      try {
        await migrate(orm);
        const most = 2;
        const unit = quota === 'evidence-megabytes' ? 1_000_000 : 1;
        keepLimits(orm, { ...DEFAULT_LIMITS, [quota]: most });
        const site = async (key: string): Promise<number> => {
          const [row] = await orm.em
            .fork()
            .execute<{ id: number }[]>(
              `insert into site (key, name, time_zone, updated_by, updated_at) values (?, ?, 'UTC', 'test', now()) returning id`,
              [key, key],
            );
          return row!.id;
        };
        const one = await site('quay');
        expect(await FILL[quota](orm, one, [unit, unit, unit])).to.deep.equal([2, 3]);
        await orm.em.fork().execute('delete from site where id = ?', [one]);
        // What is larger than the quota by itself stays while it is the newest.
        expect(await FILL[quota](orm, await site('mill'), [unit, 5 * unit])).to.deep.equal([2]);
      } finally {
        await orm.close(true);
      }
    });
});
