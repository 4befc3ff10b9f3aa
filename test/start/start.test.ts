import type { ChildProcess } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:http';
import { createConnection } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { eventually, send } from '../support/http.js';
import { freePorts, startPragmatica, untilRunning, type Started } from '../support/start.js';
import { createDatabase, listen } from '../support/stage.js';

describe('npm start', function () {
  this.timeout(300_000);
  const folders: string[] = [];
  const children: ChildProcess[] = [];
  afterEach(() => {
    for (const child of children.splice(0)) child.kill('SIGKILL');
  });
  after(() => {
    for (const folder of folders) rmSync(folder, { recursive: true, force: true });
  });

  function dataFolder(): string {
    const folder = mkdtempSync(join(tmpdir(), 'pragmatica-start-'));
    chmodSync(folder, 0o711);
    folders.push(folder);
    return folder;
  }

  function start(env: Record<string, string>, ...args: string[]): Started {
    const started = startPragmatica(env, ...args);
    children.push(started.child);
    return started;
  }

  async function stop(started: Started): Promise<void> {
    started.child.kill('SIGINT');
    expect(await started.exited).to.equal(0);
  }

  /** A start that fails: its message, which is for people. */
  async function failure(env: Record<string, string>, ...args: string[]): Promise<string> {
    const started = start(env, ...args);
    expect(await started.exited, started.text()).to.equal(1);
    expect(started.text()).not.to.match(/\n +at |node:internal/);
    return started.text();
  }

  it('starts everything, keeps its data over a second start and leaves no process', async () => {
    const data = dataFolder();
    const env = { ...(await freePorts()), PRAGMATICA_DATA: data };
    const first = start(env);
    await untilRunning(first);
    expect(first.text()).to.match(/one-time password {2}(\w{4}-){3}\w{4}/);
    expect(first.text()).to.include(`http://skerrywick.localhost:${env.PRAGMATICA_GATEWAY_PORT}`);
    const home = () => send({ port: Number(env.PRAGMATICA_GATEWAY_PORT), host: 'skerrywick.localhost' });
    expect((await home()).text).to.include('consent.js');
    await stop(first);
    for (const port of Object.values(env).filter((value) => /^\d+$/.test(value)))
      expect(await isOpen(Number(port)), port).to.equal(false);
    expect(processesWith(data)).to.deep.equal([]);

    const second = start(env);
    await untilRunning(second);
    expect(second.text()).not.to.include('Filling in the demo');
    expect((await home()).text).to.include('consent.js');
    await stop(second);
  });

  it('starts an empty service on a database that is there already', async () => {
    const env = {
      ...(await freePorts()),
      PRAGMATICA_DATA: dataFolder(),
      DATABASE_URL: await createDatabase(`start_${process.pid}`),
    };
    const started = start(env, '--no-demo');
    await untilRunning(started);
    expect(started.text()).to.include('serves the hosts of your sites').and.not.include('skerrywick');
    expect(existsSync(join(env.PRAGMATICA_DATA, 'postgres'))).to.equal(false);
    expect(await isOpen(Number(env.PRAGMATICA_DEMO_SITE_PORT))).to.equal(false);
    await stop(started);
  });

  it('recovers from having been killed', async () => {
    const data = dataFolder();
    const env = { ...(await freePorts()), PRAGMATICA_DATA: data };
    const killed = start(env, '--no-demo');
    await untilRunning(killed);
    const refused = await failure(env, '--no-demo');
    expect(refused).to.include('already running from this folder');
    killed.child.kill('SIGKILL');
    await killed.exited;
    // The service ends by itself when whoever started it is gone.
    await eventually(async () => expect(await isOpen(Number(env.PRAGMATICA_PORT))).to.equal(false), 10_000);
    const again = start(env, '--no-demo');
    await untilRunning(again);
    expect(again.text()).to.include('an earlier start left behind');
    await stop(again);
    expect(processesWith(data)).to.deep.equal([]);
  });

  it('names the setting when a port is taken', async () => {
    const ports = await freePorts();
    const blocker = await listen(createServer());
    const text = await failure({
      ...ports,
      PRAGMATICA_GATEWAY_PORT: String(blocker.port),
      PRAGMATICA_DATA: dataFolder(),
    });
    blocker.server.close();
    expect(text)
      .to.include(`Port ${blocker.port} is in use`)
      .and.include(`PRAGMATICA_GATEWAY_PORT=${blocker.port + 100} npm start`);
  });

  it('does not touch a database folder that is only half made, and says what to do', async () => {
    const data = dataFolder();
    mkdirSync(join(data, 'postgres'));
    writeFileSync(join(data, 'postgres/precious'), '');
    const text = await failure({ ...(await freePorts()), PRAGMATICA_DATA: data });
    expect(text)
      .to.include('only half made')
      .and.include(`rm -r ${join(data, 'postgres')}`);
    expect(existsSync(join(data, 'postgres/precious'))).to.equal(true);
  });

  it('refuses settings and options that it cannot use, naming them', async () => {
    expect(await failure({ PRAGMATICA_PORT: 'seventy', PRAGMATICA_DATA: dataFolder() })).to.include(
      'PRAGMATICA_PORT=seventy cannot be used',
    );
    expect(await failure({ DATABASE_URL: 'mysql://x:secret@y/z' }))
      .to.include('DATABASE_URL')
      .and.not.include('secret');
    expect(await failure({}, '--no-dmo')).to.include('"--no-dmo" is not known');
  });

  it('says which database could not be reached', async () => {
    const env = {
      ...(await freePorts()),
      PRAGMATICA_DATA: dataFolder(),
      DATABASE_URL: 'postgresql://nobody:x@127.0.0.1:9/none',
    };
    expect(await failure(env, '--no-demo'))
      .to.include('The service did not start')
      .and.include('127.0.0.1:9');
  });
});

describe('the set-up', () => {
  interface Setup {
    readonly assertNodeVersion: (version: string) => void;
    readonly ensureTools: (names: string[], machine: object) => Promise<unknown>;
  }
  const load = async (file: string): Promise<Setup> =>
    (await import(new URL(`../../scripts/setup/${file}`, import.meta.url).href)) as Setup;

  it('asks for a newer Node.js', async () => {
    const { assertNodeVersion } = await load('node-version.mjs');
    expect(() => assertNodeVersion('20.18.3')).to.throw('needs Node.js 20.19 or newer; this is 20.18.3');
    for (const version of ['20.19.0', '22.1.0', process.versions.node])
      expect(() => assertNodeVersion(version)).not.to.throw();
  });

  it('names the exact command when a program is missing and it is not root', async () => {
    const { ensureTools } = await load('debian.mjs');
    const environment = { PRAGMATICA_PG_BIN: '/nowhere', PRAGMATICA_CHROMIUM: '/nowhere' };
    const message = await ensureTools(['postgresql', 'chromium'], {
      asRoot: false,
      hasApt: true,
      environment,
    }).then(String, String);
    expect(message).to.include('sudo apt-get install -y postgresql chromium-headless-shell');
    const without = await ensureTools(['postgresql'], { asRoot: true, hasApt: false, environment }).then(
      String,
      String,
    );
    expect(without).to.include('PRAGMATICA_PG_BIN');
  });
});

describe('the project’s papers', () => {
  const read = (file: string): string => readFileSync(new URL(`../../${file}`, import.meta.url), 'utf8');

  it('document every setting, with its default', async () => {
    const { settingsSchema } = await import('@pragmatica/server');
    const { gatewaySettingsSchema } = await import('@pragmatica/gateway');
    const names = Object.keys({ ...settingsSchema.shape, ...gatewaySettingsSchema.shape });
    expect(names).to.have.length.greaterThan(8);
    for (const name of names) {
      expect(read('docs/settings.md'), name).to.include(`\`${name}\``);
      expect(read('.env.example'), name).to.match(new RegExp(`^#? ?${name}=`, 'm'));
    }
  });

  it('link every screenshot from the README', () => {
    const shots = readdirSync(new URL('../../docs/screenshots', import.meta.url));
    expect(shots).to.have.length.within(5, 19);
    for (const shot of shots) expect(read('README.md')).to.include(`docs/screenshots/${shot}`);
  });

  it('lock packages without addresses that only work in one place', () => {
    const lock = JSON.parse(read('package-lock.json')) as {
      packages: Record<string, { resolved?: string; version?: string }>;
    };
    const addresses = Object.values(lock.packages).flatMap(({ resolved }) =>
      resolved?.includes('://') ? [resolved] : [],
    );
    expect(addresses).to.deep.equal([]);
    const orm = Object.entries(lock.packages).filter(([name]) =>
      /^node_modules\/@mikro-orm\/[^/]+$/.test(name),
    );
    expect(new Set(orm.map(([, { version }]) => version)).size).to.equal(1);
  });
});

function isOpen(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = createConnection(port, '127.0.0.1');
    socket.once('connect', () => {
      socket.destroy();
      resolve(true);
    });
    socket.once('error', () => resolve(false));
  });
}

/** Processes whose command line names a folder. */
function processesWith(folder: string): string[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((pid) => {
      try {
        const line = readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ');
        return line.includes(folder) ? [line] : [];
      } catch {
        return [];
      }
    });
}
