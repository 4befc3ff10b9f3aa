import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { api, eventually, send } from '../support/http.js';
import { childrenOf, isRunning, signal, treeOf } from '../support/processes.js';
import { freePorts, startPragmatica, untilRunning, type Ports, type Started } from '../support/start.js';

const HOST = 'skerrywick.localhost';

describe('npm start watches over what it started', function () {
  this.timeout(300_000);
  let data: string;
  let env: Ports & Record<string, string>;
  let started: Started;
  before(async () => {
    data = mkdtempSync(join(tmpdir(), 'pragmatica-watch-'));
    chmodSync(data, 0o711);
    env = { ...(await freePorts()), PRAGMATICA_DATA: data };
    started = startPragmatica(env);
    await untilRunning(started);
  });
  after(() => {
    started.child.kill('SIGKILL');
    rmSync(data, { recursive: true, force: true });
  });

  const page = () =>
    send({
      port: Number(env.PRAGMATICA_GATEWAY_PORT),
      host: HOST,
      headers: { connection: 'close', accept: 'text/html' },
    });
  const service = (path: string) => send({ port: Number(env.PRAGMATICA_PORT), path });
  /** The process, started by ours, whose command line holds this. */
  function part(of: string): number {
    const found = childrenOf(started.child.pid!).find((pid) =>
      readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(of),
    );
    expect(found, of).not.to.equal(undefined);
    return found!;
  }

  /** Visits without a pause while something happens, at least ten times, and gives back what was not a whole page. */
  async function visitedWhile(happens: () => Promise<void>): Promise<unknown[]> {
    const faults: unknown[] = [];
    let isOver = false;
    let pages = 0;
    const visitor = async (): Promise<void> => {
      while (!isOver || pages < 10) {
        pages++;
        const answer = await page().catch((error: unknown) => error);
        const isWhole =
          typeof answer === 'object' &&
          answer !== null &&
          'text' in answer &&
          String(answer.text).includes('consent.js');
        if (!isWhole) faults.push(answer);
      }
    };
    const visitors = [visitor(), visitor()];
    try {
      await happens();
    } finally {
      isOver = true;
      await Promise.all(visitors);
    }
    return faults;
  }

  it('brings the service back when it dies, and no visitor notices', async () => {
    const first = part('server/dist/main.js');
    const faults = await visitedWhile(async () => {
      process.kill(first, 'SIGKILL');
      await eventually(async () => expect((await service('/readyz')).status).to.equal(200), 70_000);
    });
    expect(faults).to.deep.equal([]);
    expect(part('server/dist/main.js')).not.to.equal(first);
    expect(started.text()).to.include('The service stopped by itself and is started again');
    // Nobody has chosen a password yet: the one that was printed is no longer the one.
    const said = /one-time password is now {2}((?:\w{4}-){3}\w{4})/;
    await eventually(() => expect(started.text()).to.match(said));
    const signIn = await api(`http://127.0.0.1:${env.PRAGMATICA_PORT}`, undefined, 'POST', '/sign-in', {
      login: 'admin',
      password: said.exec(started.text())![1],
    });
    expect(signIn.status).to.equal(200);
  });

  it('brings the database back when it dies, and no visitor notices', async () => {
    const first = part('postgres');
    const faults = await visitedWhile(async () => {
      process.kill(first, 'SIGKILL');
      await eventually(() => expect(part('postgres')).not.to.equal(first), 70_000);
      await eventually(async () => expect((await service('/readyz')).status).to.equal(200), 70_000);
      // 401: whoever asks is looked up in the database.
      await eventually(async () => expect((await service('/api/v1/sites')).status).to.equal(401), 70_000);
    });
    expect(faults).to.deep.equal([]);
  });

  it('answers at once, with the reason, while the database is frozen; no visitor notices', async () => {
    const frozen = treeOf(part('postgres'));
    const faults = await visitedWhile(async () => {
      for (const pid of frozen) signal(pid, 'SIGSTOP');
      try {
        await eventually(async () => expect((await service('/readyz')).status).to.equal(503), 10_000);
        const begin = Date.now();
        const answer = await service('/api/v1/sites');
        // Whoever waited for the database would wait for ten seconds.
        expect(Date.now() - begin).to.be.below(5_000);
        expect(answer.status).to.equal(503);
        expect(answer.headers['content-type']).to.include('application/problem+json');
        expect(answer.text).to.include('Visitors still get their pages');
        expect((await service('/healthz')).status).to.equal(200);
      } finally {
        for (const pid of frozen) signal(pid, 'SIGCONT');
      }
      await eventually(async () => expect((await service('/readyz')).status).to.equal(200), 70_000);
    });
    expect(faults).to.deep.equal([]);
  });

  it('writes logs that only their owner may read', () => {
    const logs = join(data, 'logs');
    expect(statSync(logs).mode & 0o077).to.equal(0);
    const files = readdirSync(logs);
    expect(files).to.include.members(['gateway.log', 'postgres.log', 'service.log']);
    for (const file of files) expect(statSync(join(logs, file)).mode & 0o077, file).to.equal(0);
  });

  it('stops in time when the service hangs, and leaves no process', async () => {
    const all = treeOf(started.child.pid!);
    process.kill(part('server/dist/main.js'), 'SIGSTOP');
    const begin = Date.now();
    started.child.kill('SIGINT');
    expect(await started.exited).to.equal(0);
    expect(Date.now() - begin).to.be.below(45_000);
    const lines = all.filter(isRunning).map((pid) => readFileSync(`/proc/${pid}/cmdline`, 'utf8'));
    expect(lines).to.deep.equal([]);
  });
});

describe('a log', () => {
  it('is set aside when it is large, five times, and whoever writes it goes on', async () => {
    const { openLog, rotate } = (await import(
      new URL('../../scripts/setup/logs.mjs', import.meta.url).href
    )) as { openLog: (file: string) => number; rotate: (file: string, largest: number) => void };
    const { closeSync, writeSync } = await import('node:fs');
    const folder = mkdtempSync(join(tmpdir(), 'pragmatica-log-'));
    const file = join(folder, 'logs', 'service.log');
    const descriptor = openLog(file);
    for (let i = 1; i <= 8; i++) {
      writeSync(descriptor, `${i}`.repeat(100));
      rotate(file, 100);
    }
    writeSync(descriptor, 'now');
    closeSync(descriptor);
    const read = (name: string): string => readFileSync(join(folder, 'logs', name), 'utf8');
    expect(read('service.log')).to.equal('now');
    expect([1, 2, 3, 4, 5].map((i) => read(`service.log.${i}`)[0])).to.deep.equal(['8', '7', '6', '5', '4']);
    expect(readdirSync(join(folder, 'logs'))).to.have.length(6);
    rmSync(folder, { recursive: true });
  });
});
