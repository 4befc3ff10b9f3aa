import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { eventually } from '../support/http.js';
import { signal, treeOf } from '../support/processes.js';
import { startProcess, type RunningProcess } from '../support/service-process.js';
import { stageEnvironment, startStage, type Stage } from '../support/stage.js';

const PAGES = ['/', '/booking'];

const site = { site: 'skerrywick' };

describe('drills: visits in which something dies', function () {
  this.timeout(180_000);
  let stage: Stage;
  let folder: string;
  let worker: RunningProcess;

  before(async () => {
    stage = await startStage({ isWhole: true });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-drill-'));
    worker = await startWorker();
  });
  after(async () => {
    await worker.kill();
    await stage.close();
    rmSync(folder, { recursive: true, force: true });
  });

  const startWorker = () =>
    startProcess('worker-main.js', { ...stageEnvironment(folder), DATABASE_URL: stage.databaseUrl });
  /** The browsers that the worker has open, without their helpers. */
  const browsers = (): number[] =>
    treeOf(worker.pid).filter((pid) => {
      const line = commandLine(pid);
      return line.includes('chromium') && !line.includes('--type=');
    });

  /** Starts a round, does something once the first visits are over, and gives back the round at its end. */
  async function round(disturb: () => Promise<void> | void) {
    const { data } = await stage.client.call('startVisits', { params: site, body: { pages: PAGES } });
    const params = { ...site, round: data.number };
    const shown = async () => (await stage.client.call('showVisitRound', { params })).data;
    await eventually(async () => {
      const { state, done } = (await shown()).round;
      expect(state).to.equal('running');
      expect(done).to.be.above(1);
    }, 60_000);
    await disturb();
    await eventually(async () => expect((await shown()).round.state).to.equal('done'), 150_000);
    return shown();
  }

  it('a browser that dies costs no visit', async () => {
    const over = await round(() => {
      expect(browsers()).to.have.length.above(0);
      for (const pid of browsers()) signal(pid, 'SIGKILL');
    });
    expect(over.visits.filter(({ failure }) => failure !== null)).to.deep.equal([]);
  });

  it('a worker that dies with its browsers leaves a round that another one ends, each visit once', async () => {
    const over = await round(async () => {
      await worker.kill();
      worker = await startWorker();
    });
    expect(over.visits.filter(({ failure }) => failure !== null)).to.deep.equal([]);
    expect(new Set(over.visits.map(({ number }) => number)).size).to.equal(over.visits.length);
    expect(over.round.done).to.equal(over.round.planned);
  });
});

function commandLine(pid: number): string {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ');
  } catch {
    return '';
  }
}
