import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { eventually, send } from '../support/http.js';
import { childrenOf } from '../support/processes.js';
import { createDatabase, stageEnvironment, startStage, type Stage } from '../support/stage.js';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const PROGRAM = fileURLToPath(new URL('../../packages/gateway/bin/pragmatica-gateway.js', import.meta.url));
const HOST = 'skerrywick.localhost';

interface Ready {
  readonly gatewayPort: number;
  readonly statusPort: number;
}

describe('the gateway as processes of its own', function () {
  this.timeout(180_000);
  let stage: Stage;
  let data: string;
  let child: ChildProcess;
  let ready: Ready;
  let output = '';

  function launch(databaseUrl: string, processes = '2'): ChildProcess {
    output = '';
    const started = spawn(process.execPath, [PROGRAM], {
      env: {
        ...process.env,
        ...stageEnvironment(data),
        DATABASE_URL: databaseUrl,
        PRAGMATICA_GATEWAY_PROCESSES: processes,
        PRAGMATICA_LOG_LEVEL: 'warn',
      },
      stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
    });
    for (const stream of [started.stdout!, started.stderr!])
      stream.on('data', (text) => (output += String(text)));
    return started;
  }

  before(async () => {
    stage = await startStage();
    data = mkdtempSync(join(tmpdir(), 'pragmatica-tree-'));
    child = launch(stage.databaseUrl);
    ready = await new Promise<Ready>((resolve, reject) => {
      child.once('message', (message) => resolve(message as Ready));
      child.once('exit', () => reject(new Error(output)));
    });
  });
  after(async () => {
    child.kill('SIGKILL');
    await stage.close();
    rmSync(data, { recursive: true, force: true });
  });

  const page = (host = HOST) => send({ port: ready.gatewayPort, host, headers: { connection: 'close' } });
  const status = (path: string) => send({ port: ready.statusPort, path });
  const workers = () => childrenOf(child.pid!);

  it('serves what is live, and a publish at once', async () => {
    expect((await page()).headers['pragmatica-release']).to.equal('1');
    await stage.client.call('publish', {
      params: { site: 'skerrywick' },
      ifMatch: '*',
      body: { message: 'Larger text' },
    });
    await eventually(async () => expect((await page()).text).to.include('easewheel'), 2_000);
  });

  it('goes on when one of them dies, and replaces it', async () => {
    const first = workers();
    expect(first).to.have.length(2);
    process.kill(first[0]!, 'SIGKILL');
    // Not one is refused: the other one serves on.
    for (let i = 0; i < 30; i++) expect((await page()).status).to.equal(200);
    await eventually(() => expect(workers()).to.have.length(2).and.not.to.include(first[0]!));
    await eventually(async () => expect((await status('/readyz')).status).to.equal(200));
  });

  it('says how it is and counts for all of them, on a port that visitors do not reach', async () => {
    const refused = 'nobody.localhost';
    for (let i = 0; i < 6; i++) expect((await page(refused)).status).to.equal(421);
    const { text } = await status('/metrics');
    expect(text).to.match(/refusals_total\{reason="unknown-host"\} 6/);
    expect((await status('/healthz')).text).to.equal('ok\n');
    expect((await status('/readyz')).text).to.equal('ready\n');
    expect((await status('/elsewhere')).status).to.equal(404);
    expect((await page('127.0.0.1')).status).to.equal(421);
  });

  it('serves while the process that follows the database hangs, and hears of releases after it', async () => {
    process.kill(child.pid!, 'SIGSTOP');
    try {
      for (let i = 0; i < 30; i++) expect((await page()).status).to.equal(200);
      await stage.client.call('restoreRelease', {
        params: { site: 'skerrywick', environment: 'live' },
        ifMatch: '*',
        body: { release: 1 },
      });
      expect((await page()).headers['pragmatica-release']).to.equal('2');
    } finally {
      process.kill(child.pid!, 'SIGCONT');
    }
    await eventually(async () => expect((await page()).headers['pragmatica-release']).to.equal('1'), 10_000);
  });

  it('stops in order, and leaves nothing behind', async () => {
    const all = [child.pid!, ...workers()];
    const exited = new Promise((resolve) => child.once('exit', resolve));
    child.disconnect();
    expect(await exited).to.equal(0);
    for (const pid of all) expect(() => process.kill(pid, 0)).to.throw();
  });

  it('says what is missing where it has nothing to serve', async () => {
    const end = async (databaseUrl: string): Promise<string> => {
      const started = launch(databaseUrl);
      expect(await new Promise((resolve) => started.once('close', resolve))).to.equal(1);
      expect(output).not.to.match(/\n +at /);
      return output;
    };
    expect(await end(await createDatabase(`tree_empty_${process.pid}`))).to.match(
      /no tables of Pragmatica yet. Start the service first/,
    );
    const wrong = new URL(stage.databaseUrl);
    wrong.port = '9';
    expect(await end(wrong.href)).to.match(/127\.0\.0\.1:9 does not answer .* no releases on disk/);
    expect(output).not.to.include(wrong.password);
  });
});
