import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { JobRunner, readSettings, startService, type Job } from '@pragmatica/server';
import { expect } from 'chai';
import pg from 'pg';
import { pino } from 'pino';
import { eventually } from '../support/http.js';
import { createDatabase, stageEnvironment } from '../support/stage.js';

/** A promise that somebody else settles. */
function gate(): { readonly opened: Promise<void>; open: () => void } {
  let open = (): void => undefined;
  const opened = new Promise<void>((resolve) => (open = resolve));
  return { opened, open };
}

describe('jobs', () => {
  const log = pino({ level: 'silent' });
  const counting = (change: Partial<Job> = {}): Job & { rounds: number } => {
    const job = {
      name: 'counting',
      everyMs: 3_600_000,
      rounds: 0,
      run(): Promise<void> {
        job.rounds++;
        return Promise.resolve();
      },
      ...change,
    };
    return job;
  };

  it('begin at once, and again after a change only where they follow changes', async () => {
    const [follower, other] = [counting({ followsChanges: true }), counting()];
    const runner = new JobRunner([follower, other], log);
    await eventually(() => expect([follower.rounds, other.rounds]).to.deep.equal([1, 1]));
    runner.wake();
    await eventually(() => expect([follower.rounds, other.rounds]).to.deep.equal([2, 1]));
    await runner.close();
    expect([follower.rounds, other.rounds]).to.deep.equal([2, 1]);
  });

  it('make one round more after changes that come during one, however many', async () => {
    const first = gate();
    let rounds = 0;
    const runner = new JobRunner(
      [counting({ followsChanges: true, run: () => (++rounds === 1 ? first.opened : Promise.resolve()) })],
      log,
    );
    for (let i = 0; i < 5; i++) runner.wake();
    first.open();
    await eventually(() => expect(rounds).to.equal(2));
    await runner.close();
    expect(rounds).to.equal(2);
  });

  it('go on after a round that failed, and hold up no other', async () => {
    let rounds = 0;
    const other = counting({ followsChanges: true });
    const runner = new JobRunner(
      [counting({ run: () => (++rounds === 1 ? Promise.reject(new Error('x')) : Promise.resolve()) }), other],
      log,
    );
    await eventually(() => expect(rounds).to.equal(2));
    expect(other.rounds).to.equal(1);
    await runner.close();
  });

  it('are told to end, and waited for', async () => {
    let hasEnded = false;
    const runner = new JobRunner(
      [
        counting({
          run: (signal) =>
            new Promise((resolve) => {
              signal.addEventListener('abort', () => {
                hasEnded = true;
                resolve();
              });
            }),
        }),
      ],
      log,
    );
    await runner.close();
    expect(hasEnded).to.equal(true);
  });

  it('remove of the trail what is older than the owner wants, and nothing else is let go', async () => {
    const databaseUrl = await createDatabase(`trail_${process.pid}`);
    const data = mkdtempSync(join(tmpdir(), 'pragmatica-trail-'));
    const settings = (days: string) =>
      readSettings({ ...stageEnvironment(data), PRAGMATICA_TRAIL_DAYS: days });
    await (await startService(settings('0'), databaseUrl)).close();
    const client = new pg.Client({ connectionString: databaseUrl });
    await client.connect();
    await client.query(`
      insert into audit (action, message, by, at) select 'x', 'old', 'x', now() - interval '31 days' from generate_series(1, 3);
      insert into audit (action, message, by, at) values ('x', 'young', 'x', now() - interval '29 days');
    `);
    const kept = async (): Promise<string[]> =>
      (await client.query<{ message: string }>(`select message from audit where action = 'x'`)).rows.map(
        ({ message }) => message,
      );
    const service = await startService(settings('30'), databaseUrl);
    await eventually(async () => expect(await kept()).to.deep.equal(['young']));
    const refused = await client.query('delete from audit').then(() => 'done', String);
    expect(refused).to.include('only ever added to');
    await service.close();
    const another = await client
      .query(`set pragmatica.trail_days = '30'; delete from audit where message = 'young'`)
      .then(() => 'done', String);
    expect(another, 'younger than that').to.include('only ever added to');
    await client.end();
    rmSync(data, { recursive: true, force: true });
  });
});
