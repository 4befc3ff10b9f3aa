import { migrate, openDatabase, storeOf } from '@pragmatica/server';
import { expect } from 'chai';
import { addVisit } from '../../packages/server/dist/storage/visits.js';
import { createDatabase } from '../support/stage.js';

const AT_ONCE = 12;

describe('the visits of a round', function () {
  this.timeout(60_000);

  it('get numbers of their own, also where several are added at once', async () => {
    const orm = await openDatabase(await createDatabase(`numbers_${process.pid}`));
    try {
      await migrate(orm);
      const store = storeOf(orm);
      const em = orm.em.fork();
      const [site] = await em.execute<{ id: number }[]>(
        `insert into site (key, name, time_zone, updated_by, updated_at) values ('quay', 'Quay', 'UTC', 'test', now()) returning id`,
      );
      const [round] = await em.execute<{ id: number }[]>(
        `insert into visit_round (site_id, number, host, environment, delivery, options, requested_by)
         values (?, 1, 'quay.localhost', 'live', 'gateway', '{}', 'somebody') returning id`,
        [site!.id],
      );
      const visit = {
        path: '/',
        title: 'A visitor',
        because: '',
        script: { device: 'desktop', steps: [] },
      } as const;
      const added = await Promise.all(
        Array.from({ length: AT_ONCE }, () => addVisit(store.fork(), { id: round!.id }, visit)),
      );
      expect(added.map(({ number }) => number).sort((a, b) => a - b)).to.deep.equal(
        Array.from({ length: AT_ONCE }, (_, index) => index + 1),
      );
    } finally {
      await orm.close(true);
    }
  });
});
