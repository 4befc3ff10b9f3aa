import { expect } from 'chai';
import pg from 'pg';
import pino from 'pino';
import { JobQueue } from '../../packages/server/dist/jobs/queue.js';
import { eventually } from '../support/http.js';
import { createDatabase } from '../support/stage.js';

/** Nobody waits for the next look into the queue. */
const NEVER_S = 3_600;

describe('the queue of jobs', function () {
  this.timeout(60_000);
  const log = pino({ level: 'silent' });
  let url: string;
  let worker: JobQueue;
  let service: JobQueue;
  const done: number[] = [];

  before(async () => {
    url = await createDatabase(`queue_${process.pid}`);
    worker = new JobQueue(url, log, true, NEVER_S);
    service = new JobQueue(url, log, false);
    await worker.start();
    await service.start();
    await worker.work('visits', 2, ({ round }) => {
      done.push(round);
      return Promise.resolve();
    });
  });
  after(async () => {
    await service.close();
    await worker.close();
    expect(await connections()).to.equal(0);
  });
  beforeEach(() => done.splice(0));

  async function connections(): Promise<number> {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    const { rows } = await client.query<{ count: number }>(
      'select count(*)::int from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
    );
    await client.end();
    return rows[0]!.count;
  }

  it('calls whoever takes jobs as soon as there is one', async () => {
    await service.send('visits', { round: 1 });
    await eventually(() => expect(done).to.deep.equal([1]), 10_000);
    await service.send('visits', { round: 2 });
    await service.send('visits', { round: 3 });
    await eventually(() => expect(done).to.have.members([1, 2, 3]), 10_000);
  });

  it('calls again when the connection by which it heard was cut', async () => {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    const { rowCount } = await client.query(
      "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and application_name = 'pragmatica-calls'",
    );
    expect(rowCount).to.equal(1);
    await eventually(async () => {
      const { rows } = await client.query(
        "select 1 from pg_stat_activity where datname = current_database() and application_name = 'pragmatica-calls' and query like 'listen%'",
      );
      expect(rows).to.have.length(1);
    }, 15_000);
    await client.end();
    await service.send('visits', { round: 4 });
    await eventually(() => expect(done).to.include(4), 10_000);
  });
});
