import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { createClient } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import { gatewaySettingsSchema } from '@pragmatica/gateway';
import { SettingsError } from '@pragmatica/runtime';
import { readSettings, settingsSchema } from '@pragmatica/server';
import { createDatabase } from '../support/stage.js';

const MAIN = fileURLToPath(new URL('../../packages/server/dist/main.js', import.meta.url));

describe('the service as a process', function () {
  this.timeout(180_000);
  let child: ChildProcess;
  let data: string;
  beforeEach(() => {
    data = mkdtempSync(join(tmpdir(), 'pragmatica-process-'));
  });
  afterEach(() => {
    child.kill('SIGKILL');
    rmSync(data, { recursive: true, force: true });
  });

  interface Ready {
    readonly address: string;
    readonly firstSignIn: { readonly login: string; readonly password: string };
  }

  async function start(
    databaseUrl: string,
    more: Record<string, string> = {},
  ): Promise<{ ready: Ready; output: () => string; exited: Promise<number | null> }> {
    child = spawn(process.execPath, [MAIN], {
      env: {
        ...process.env,
        DATABASE_URL: databaseUrl,
        PRAGMATICA_PORT: '0',
        PRAGMATICA_PREVIEW_PORT: '0',
        PRAGMATICA_LOG_LEVEL: 'debug',
        PRAGMATICA_DATA: data,
        ...more,
      },
      stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
    });
    let output = '';
    for (const stream of [child.stdout!, child.stderr!])
      stream.on('data', (data) => (output += String(data)));
    const exited = new Promise<number | null>((resolve) => child.once('exit', resolve));
    const ready = await new Promise<Ready>((resolve, reject) => {
      child.once('message', (message) => resolve(message as Ready));
      void exited.then(() => reject(new Error(output)));
    });
    return { ready, output: () => output, exited };
  }

  it('logs in JSON, one event a line, and no secret ever', async () => {
    const { ready, output, exited } = await start(await createDatabase(`process_log_${process.pid}`));
    const { login, password } = ready.firstSignIn;
    const newPassword = 'never to be seen in a log';
    const visitor = createClient({ server: ready.address, fetch: localhostFetch });
    const token = (await visitor.call('signIn', { body: { login, password, newPassword, as: 'token' } })).data
      .token!;
    const client = createClient({ server: ready.address, token, fetch: localhostFetch });
    const { secret } = (await client.call('createToken', { body: { name: 'other' } })).data;
    await visitor.call('signIn', { body: { login, password: 'wrong but mine' } }).catch(() => undefined);
    const session = await fetch(`${ready.address}/api/v1/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ login, password: newPassword }),
    });
    const cookie = session.headers.get('set-cookie')!.split(';')[0]!;
    await fetch(`${ready.address}/api/v1/session`, { headers: { cookie } });
    child.kill('SIGTERM');
    expect(await exited).to.equal(0);
    const lines = output().trim().split('\n');
    expect(lines.length).to.be.greaterThan(5);
    for (const line of lines) expect(() => JSON.parse(line) as unknown, line).not.to.throw();
    expect(output()).to.include('/api/v1/sign-in');
    for (const hidden of [password, newPassword, 'wrong but mine', token, secret, cookie.split('=')[1]!])
      expect(output()).not.to.include(hidden);
  });

  it('gives a new one-time password at each start until one is chosen', async () => {
    const url = await createDatabase(`process_password_${process.pid}`);
    const first = await start(url);
    child.kill('SIGTERM');
    await first.exited;
    const second = await start(url);
    expect(second.ready.firstSignIn.password).not.to.equal(first.ready.firstSignIn.password);
    const client = createClient({ server: second.ready.address, fetch: localhostFetch });
    const signIn = (password: string) => client.call('signIn', { body: { login: 'admin', password } });
    expect(await signIn(first.ready.firstSignIn.password).catch(() => 'refused')).to.equal('refused');
    await client.call('signIn', { body: { ...second.ready.firstSignIn, newPassword: 'chosen by myself' } });
    child.kill('SIGTERM');
    await second.exited;
    const third = await start(url);
    expect(third.ready.firstSignIn).to.equal(undefined);
  });

  it('ends when whoever started it is gone', async () => {
    const { exited, output } = await start(await createDatabase(`process_orphan_${process.pid}`));
    child.disconnect();
    expect(await exited, output()).to.equal(0);
  });
});

describe('the settings', () => {
  it('have defaults, and empty variables count as not set', () => {
    expect(readSettings({})).to.include({
      PRAGMATICA_PORT: 4700,
      PRAGMATICA_HOST: '127.0.0.1',
      PRAGMATICA_SECURE_COOKIES: false,
    });
    expect(readSettings({ PRAGMATICA_PORT: '' }).PRAGMATICA_PORT).to.equal(4700);
    expect(readSettings({ PRAGMATICA_SECURE_COOKIES: '1' }).PRAGMATICA_SECURE_COOKIES).to.equal(true);
  });

  it('are refused with the variable and the value, but never with a password', () => {
    const message = (environment: Record<string, string>): string => {
      try {
        readSettings(environment);
        return '';
      } catch (error) {
        expect(error).to.be.instanceOf(SettingsError);
        return (error as Error).message;
      }
    };
    expect(message({ PRAGMATICA_PORT: '70000' })).to.include('PRAGMATICA_PORT=70000');
    expect(
      message({ PRAGMATICA_LOG_LEVEL: 'loud', PRAGMATICA_SESSION_DAYS: '0' }).split('\n'),
    ).to.have.length(2);
    expect(message({ DATABASE_URL: 'mysql://me:hidden@x/y' }))
      .to.include('postgresql://')
      .and.not.include('hidden');
  });

  it('each say what they are for', () => {
    const all = { ...settingsSchema.shape, ...gatewaySettingsSchema.shape };
    for (const [name, field] of Object.entries(all)) expect(field.description, name).to.match(/^[A-Z].*\.$/);
  });
});
