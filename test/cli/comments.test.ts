import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { BINARY, cliRunner, type RunCli } from '../support/cli.js';
import { eventually } from '../support/http.js';
import { makeMember } from '../support/members.js';
import { startStage, type Stage } from '../support/stage.js';

describe('comments, on the command line', function () {
  this.timeout(60_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;
  let wenna: RunCli;
  before(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
    const parts = [{ placement: 'head-end' as const, code: 'window.visits = 1;' }];
    await stage.client.call('createSnippet', {
      params: { site: 'mill' },
      body: { key: 'chat', name: 'Harbour chat', parts },
    });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-comments-'));
    const plain = cliRunner(() => stage.server, folder);
    const as =
      (token: string): RunCli =>
      (args) =>
        plain(args, { env: { PRAGMATICA_TOKEN: token, COLUMNS: '140' } });
    run = as(stage.token);
    wenna = as(await makeMember(stage, 'wenna', { sites: { mill: 'view' } }));
  });
  after(async () => {
    await stage.close();
    rmSync(folder, { recursive: true });
  });

  it('are written, listed, done, opened again, changed and removed', async () => {
    expect((await run(['comment', 'list'])).out).to.equal(
      'No open comments. --all lists those that are done.\n',
    );
    const added = await wenna(['comment', 'add', 'Wanted, @admin? Or @nobody?', '--snippet', 'chat']);
    expect(added.out).to.equal('Added comment 1 to: Harbour chat\n');
    expect(added.err).to.equal(
      'admin gets no mail: no address, or no mail server here.\nNobody who sees this site is called nobody.\n',
    );
    const row = /^1 +wenna +20\S+ \S+ +Harbour chat +Wanted, @admin\? Or @nobody\?$/m;
    expect((await run(['comment', 'list', '--snippet', 'chat'])).out).to.match(row);
    expect((await run(['comment', 'done', '1'])).out).to.equal('Comment 1 is done.\n');
    expect((await run(['comment', 'list'])).out).to.match(/^No open comments/);
    expect((await run(['comment', 'list', '--all'])).out).to.match(/\(done: admin\)/);
    expect((await wenna(['comment', 'reopen', '1'])).out).to.equal('Comment 1 is open again.\n');
    const refused = await run(['comment', 'edit', '1', 'No']);
    expect(refused.code).to.not.equal(0);
    expect(refused.err).to.equal('pragmatica: Only whoever wrote a comment can change its words.\n');
    expect((await wenna(['comment', 'edit', '1', 'Not wanted.'])).out).to.equal('Comment 1 is changed.\n');
    expect((await run(['comment', 'remove', '1'])).out).to.equal('Comment 1 is removed.\n');
    expect((await run(['comment', 'remove', '1'])).code).to.equal(4);
  });

  it('are on findings, by their id, and on one thing at a time', async () => {
    const { items } = JSON.parse((await run(['check', '--json'])).out) as {
      items: { id: string; title: string }[];
    };
    const [found] = items;
    const on = (...args: string[]) => run(['comment', 'add', 'Why?', ...args]);
    expect((await on('--finding', found!.id)).out).to.equal(`Added comment 2 to: ${found!.title}\n`);
    for (const args of [[], ['--snippet', 'chat', '--finding', found!.id]]) {
      const { code, err } = await on(...args);
      expect(code).to.equal(2);
      expect(err).to.equal('pragmatica: Say what it is on: --snippet or --finding.\n');
    }
  });

  it('go to an address that is said here', async () => {
    expect((await run(['account', 'mail'])).out).to.equal('No mails go to you.\n');
    const to = 'harbour@skerrywick.example';
    expect((await run(['account', 'mail', to])).out).to.equal(`Mails to you go to ${to}.\n`);
    expect((await run(['account', 'mail', 'nowhere'])).err).to.contain('like name@example.com');
    expect((await run(['account', 'mail', '--none'])).out).to.equal('No mails go to you.\n');
    expect((await run(['account', 'mail', to, '--none'])).code).to.equal(2);
  });

  it('are followed as they come, until somebody stops it', async () => {
    const child = spawn(process.execPath, [BINARY, 'follow', '--site', 'mill'], {
      env: { ...process.env, PRAGMATICA_SERVER: stage.server, PRAGMATICA_TOKEN: stage.token },
    });
    let out = '';
    child.stdout.on('data', (data) => (out += String(data)));
    const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
    await eventually(() => expect(out).to.match(/Nobody else is there\.$/m));
    await wenna(['comment', 'add', 'Look', '--snippet', 'chat']);
    await eventually(() => expect(out).to.match(/A comment was written or changed by wenna\.$/m));
    await run(['snippet', 'off', 'chat']);
    await eventually(() => expect(out).to.match(/Something was changed by admin\.$/m));
    child.kill('SIGINT');
    expect(await ended).to.equal(0);
  });
});
