import { ApiError, type Problem } from '@pragmatica/contract';
import pg from 'pg';
import { expect } from 'chai';
import { startStage, type Stage } from '../support/stage.js';
import { addSite, finished, linking, ownSite, type OwnSite } from '../support/surveys.js';

async function problemOf(call: Promise<unknown>): Promise<Problem> {
  const error = await call.then(
    () => undefined,
    (thrown: unknown) => thrown,
  );
  if (error instanceof ApiError) return error.problem;
  throw new Error('it was not refused');
}

describe('planned surveys', function () {
  this.timeout(60_000);
  const site = 'planned';
  const host = `${site}.localhost`;
  const params = { site, host };
  let stage: Stage;
  let own: OwnSite;
  let database: pg.Client;

  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
    own = await ownSite({ '/': linking('/a'), '/a': '' });
    await addSite(stage, site, own.port);
    database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
  });

  after(async () => {
    own.close();
    await database.end();
    await stage.close();
  });

  const planned = async () => (await stage.client.call('listSchedules', { params: { site } })).data.items;

  it('are said in words, with the next of them, on the clocks of the site', async () => {
    await stage.client.call('setSchedule', { params, body: { cron: '0  6 * * 1', limit: 50, delayMs: 10 } });
    const [schedule, ...others] = await planned();
    expect(others).to.deep.equal([]);
    expect(schedule).to.include({ host, cron: '0 6 * * 1', words: 'every Monday at 06:00', limit: 50 });
    const next = new Date(schedule!.nextAt!);
    expect([next.getUTCDay(), next.getUTCHours(), next > new Date()]).to.deep.equal([1, 6, true]);
  });

  it('begin when their time has come, once, and the next one is planned', async () => {
    await database.query("update survey_schedule set next_at = now() - interval '3 days'");
    const surveys = async () =>
      (await stage.client.call('listSurveys', { params: { site }, query: {} })).data.items;
    let all = await surveys();
    for (let i = 0; i < 100 && all.length === 0; i++) {
      await new Promise((resolve) => setTimeout(resolve, 200));
      all = await surveys();
    }
    expect(all).to.have.length(1);
    expect(all[0]).to.include({ limit: 50, requestedBy: 'admin' });
    expect((await finished(stage, site, all[0]!.number)).state).to.equal('done');
    const { nextAt } = (await planned())[0]!;
    expect(new Date(nextAt!) > new Date()).to.equal(true);
    const { data } = await stage.client.call('listActivity', { params: { site }, query: {} });
    const said = data.items.map(({ message }) => message);
    expect(said).to.include('Surveys of planned.localhost now run every Monday at 06:00.');
    expect(said).to.include('Started survey 1 of planned.localhost.');
  });

  it('follow the site to another time zone', async () => {
    const { etag } = await stage.client.call('showSite', { params: { site } });
    await stage.client.call('editSite', {
      params: { site },
      ifMatch: etag,
      body: { timeZone: 'Asia/Tokyo' },
    });
    let hour = 6;
    for (let i = 0; i < 100 && hour === 6; i++) {
      await new Promise((resolve) => setTimeout(resolve, 200));
      hour = new Date((await planned())[0]!.nextAt!).getUTCHours();
    }
    expect(hour).to.equal(21);
  });

  it('end when somebody says so', async () => {
    await stage.client.call('endSchedule', { params });
    expect(await planned()).to.deep.equal([]);
    const { status } = await problemOf(stage.client.call('endSchedule', { params }));
    expect(status).to.equal(404);
  });

  for (const [cron, said] of [
    ['whenever', 'is not a schedule'],
    ['0 6 31 2 *', 'never comes'],
    ['*/5 * * * *', 'more than once an hour'],
  ] as const)
    it(`are refused, at the field: ${cron}`, async () => {
      const problem = await problemOf(stage.client.call('setSchedule', { params, body: { cron } }));
      expect(problem.errors?.[0]).to.include({ pointer: '/cron' });
      expect(problem.errors?.[0]?.detail).to.include(said);
    });
});
