import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import pg from 'pg';
import { cliRunner, type RunCli } from '../support/cli.js';
import { api } from '../support/http.js';
import { ADMIN, startStage, type Stage } from '../support/stage.js';

describe('your own access, on the command line', function () {
  this.timeout(60_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;
  before(async () => {
    stage = await startStage({ hasDemo: false });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-account-'));
    const plain = cliRunner(() => stage.server, folder);
    run = (args, more) => plain(args, { ...more, env: { PRAGMATICA_TOKEN: stage.token, COLUMNS: '140' } });
  });
  after(async () => {
    await stage.close();
    rmSync(folder, { recursive: true });
  });

  it('makes a token that works for some days, shows it once, and revokes it', async () => {
    const { out } = await run(['token', 'create', 'Build pipeline', '--days', '30']);
    const secret = /pragmatica_[\w-]{43}/.exec(out)![0];
    expect(out).to.match(/^Token \d+, “Build pipeline”, works until 20\d\d-.*\. It is not shown again:/);
    expect((await api(stage.server, secret, 'GET', '/sites')).status).to.equal(200);
    const list = (await run(['token', 'list'])).out;
    expect(list).not.to.include(secret);
    const row = list.split('\n').find((line) => line.includes('Build pipeline'))!;
    const id = row.split(' ')[0]!;
    expect((await run(['token', 'revoke', id])).out).to.equal(`Token ${id} is revoked.\n`);
    expect((await api(stage.server, secret, 'GET', '/sites')).status).to.equal(401);
    const again = await run(['token', 'revoke', id]);
    expect([again.code, again.err]).to.deep.equal([4, 'pragmatica: You have no such token.\n']);
    const never = await run(['token', 'create', 'x', '--days', '9999']);
    expect([never.code, never.err]).to.deep.equal([2, 'pragmatica: days: Use 3650 or less.\n']);
  });

  it('lists the browsers in which somebody is signed in, and ends them', async () => {
    expect((await run(['session', 'list'])).out).to.equal('You are not signed in to the console anywhere.\n');
    for (let i = 0; i < 3; i++) await api(stage.server, undefined, 'POST', '/sign-in', ADMIN);
    const { out } = await run(['session', 'list']);
    const ids = [...out.matchAll(/^(\d+) +desktop +\S+ +20/gm)].map(([, id]) => id!);
    expect(ids).to.have.length(3);
    expect((await run(['session', 'end', ids[0]!])).out).to.equal(`Session ${ids[0]!} has ended.\n`);
    const unsaid = await run(['session', 'end']);
    expect([unsaid.code, unsaid.err]).to.deep.equal([
      2,
      'pragmatica: Say which session ends: its number, or --all.\n',
    ]);
    expect((await run(['session', 'end', '--all'])).out).to.equal(
      'You are signed out of the console everywhere.\n',
    );
    expect(JSON.parse((await run(['session', 'list', '--json'])).out)).to.deep.equal([]);
  });

  it('gives the password again for what matters most', async () => {
    const database = new pg.Client({ connectionString: stage.databaseUrl });
    await database.connect();
    await database.query(`update credential set confirmed_at = null`);
    await database.end();
    const asked = await run(['token', 'create', 'x']);
    expect([asked.code, asked.err]).to.deep.equal([
      3,
      'pragmatica: This takes your password again, and nobody is here to ask. Run "pragmatica session confirm --stdin" first.\n',
    ]);
    const wrong = await run(['session', 'confirm', '--stdin'], { input: 'not this\n' });
    expect([wrong.code, wrong.err]).to.deep.equal([
      2,
      'pragmatica: password: This is not your current password.\n',
    ]);
    const right = await run(['session', 'confirm', '--stdin'], { input: `${ADMIN.password}\n` });
    expect(right.out).to.match(/^Confirmed until 20\d\d-/);
    expect((await run(['token', 'create', 'x'])).code).to.equal(0);
  });

  it('says which language somebody reads; commands and what the service says are in it', async () => {
    const own = mkdtempSync(join(tmpdir(), 'pragmatica-language-'));
    const plain = cliRunner(() => stage.server, own);
    await plain(['sign-in', '--login', ADMIN.login, '--stdin'], { input: `${ADMIN.password}\n` });
    const known = 'There are: en (English) and de (Deutsch).\n';
    expect((await plain(['account', 'language'])).out).to.equal(`You have chosen no language. ${known}`);
    const wrong = await plain(['account', 'language', 'xx']);
    expect([wrong.code, wrong.err]).to.deep.equal([
      2,
      'pragmatica: language: The service does not speak xx. It speaks en and de.\n',
    ]);
    expect((await plain(['account', 'language', 'de'])).out).to.equal(`You read Deutsch. ${known}`);
    const gone = await plain(['site', 'show', '--site', 'nowhere']);
    expect([gone.code, gone.err]).to.deep.equal([4, 'pragmatica: Es gibt keine Website „nowhere“.\n']);
    expect((await plain(['account', '--help'])).out).to.include('sagen, welche Sprache Sie lesen');
    // The variable comes first, for both.
    const english = await plain(['site', 'show', '--site', 'nowhere'], {
      env: { PRAGMATICA_LANGUAGE: 'en' },
    });
    expect(english.err).to.equal('pragmatica: There is no site "nowhere".\n');
    const cleared = await plain(['account', 'language', '--none']);
    expect(cleared.out).to.match(/^Sie haben keine Sprache gewählt\. Es gibt:/);
    expect((await plain(['account', 'language'])).out).to.equal(`You have chosen no language. ${known}`);
    rmSync(own, { recursive: true });
  });
});
