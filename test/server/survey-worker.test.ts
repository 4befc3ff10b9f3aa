import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { stageEnvironment, startStage, type Stage } from '../support/stage.js';
import {
  addSite,
  finished,
  linking,
  outcomes,
  ownSite,
  type Answer,
  type OwnSite,
} from '../support/surveys.js';

const WORKER = fileURLToPath(new URL('../../packages/server/dist/worker-main.js', import.meta.url));
const PATHS = Array.from({ length: 120 }, (_, i) => `/p${i}`);
const CONCURRENCY = 4;
/** Pages that workers have in hand: eight for each request that they may make at once. */
const IN_HAND = 8 * CONCURRENCY;

let atOnce = 0;
let mostAtOnce = 0;
/** The site takes a while for each page, so that a worker can be killed among them. */
const slowly: Answer = (_, response) => {
  mostAtOnce = Math.max(mostAtOnce, ++atOnce);
  response.on('close', () => atOnce--);
  setTimeout(() => response.writeHead(200, { 'content-type': 'text/html' }).end('<title>p</title>'), 40);
};

describe('workers as processes', function () {
  this.timeout(120_000);
  let stage: Stage;
  let site: OwnSite;
  const workers: ChildProcess[] = [];

  before(async () => {
    stage = await startStage({ hasDemo: false });
    site = await ownSite({
      '/': linking(...PATHS),
      ...Object.fromEntries(PATHS.map((path) => [path, slowly])),
    });
    await addSite(stage, 'many', site.port);
  });

  after(async () => {
    for (const worker of workers) worker.kill('SIGKILL');
    site.close();
    await stage.close();
  });

  async function startWorker(): Promise<ChildProcess> {
    const worker = spawn(process.execPath, [WORKER], {
      env: { ...process.env, ...stageEnvironment(tmpdir()), DATABASE_URL: stage.databaseUrl },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    workers.push(worker);
    await once(worker, 'message');
    return worker;
  }

  it('take up what one left that was killed, lose no page and count none twice', async () => {
    const first = await startWorker();
    const { data } = await stage.client.call('startSurvey', {
      params: { site: 'many' },
      body: { concurrency: CONCURRENCY },
    });
    const params = { site: 'many', survey: data.number };
    for await (const { survey } of stage.client.stream('watchSurvey', { params }))
      if (survey.visited > PATHS.length / 5) break;
    first.kill('SIGKILL');
    await once(first, 'exit');
    const { data: left } = await stage.client.call('showSurvey', { params });
    expect(left.state).to.equal('running');
    expect(left.visited).to.be.below(PATHS.length);
    await startWorker();
    const over = await finished(stage, 'many', data.number);
    const all = PATHS.length + 1;
    expect(over).to.include({ state: 'done', found: all, visited: all, failed: 0 });
    const known = await outcomes(stage, 'many');
    expect(Object.keys(known)).to.have.members(['/', ...PATHS]);
    expect(new Set(Object.values(known))).to.deep.equal(new Set(['read']));
    expect(mostAtOnce).to.be.within(2, CONCURRENCY);
    // What was written down is not asked for again; what the killed one had in hand is, once.
    const asked = Object.keys(known).map((path) => site.count(path));
    expect(Math.max(...asked)).to.be.at.most(2);
    expect(asked.filter((count) => count === 2).length).to.be.at.most(IN_HAND);
  });
});
