import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { MemberDetail } from '@pragmatica/contract';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { PASSWORD } from '../support/members.js';
import { startStage, type Stage } from '../support/stage.js';

describe('members, on the command line', function () {
  this.timeout(60_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;
  let as: (token: string) => RunCli;
  before(async () => {
    stage = await startStage({ hasDemo: false });
    for (const key of ['mill', 'quay']) await stage.client.call('createSite', { body: { key, name: key } });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-members-'));
    const plain = cliRunner(() => stage.server, folder);
    as = (token) => (args) => plain(args, { env: { PRAGMATICA_TOKEN: token, COLUMNS: '140' } });
    run = as(stage.token);
  });
  after(async () => {
    await stage.close();
    rmSync(folder, { recursive: true });
  });

  it('invites, shows who may what, and takes it back', async () => {
    const { out } = await run(['member', 'invite', 'Fionn', '--at', 'mill=edit', '--at', 'quay=view']);
    expect(out).to.match(/^Send Fionn this link\. It works once, until 20\d\d-/);
    const open = (await run(['member', 'invitations'])).out;
    expect(open).to.match(/^\d+ +Fionn +mill: edit, quay: view +admin +20/m);
    const secret = /\/invitation#(\S+)/.exec(out)![1]!;
    const person = { secret, login: 'fionn', name: 'Fionn', password: PASSWORD };
    await stage.client.call('acceptInvitation', { body: person });
    expect((await run(['member', 'invitations'])).out).to.equal('No open invitations.\n');

    const all = (await run(['member', 'list'])).out;
    expect(all).to.match(/^admin \(you\) +Administrator +own +20/m);
    expect(all).to.match(/^fionn +Fionn +mill edit, quay view +/m);
    expect((await run(['member', 'list', '--site', 'quay'])).out).to.match(
      /^fionn +Fionn +view +this site$/m,
    );
    expect((await run(['member', 'role', 'fionn', 'publish', '--site', 'quay'])).out).to.equal(
      'fionn now has the role “publish” at quay.\n',
    );
    expect((await run(['member', 'role', 'fionn', 'none', '--site', 'mill'])).out).to.equal(
      'fionn no longer has a role at mill.\n',
    );
    expect((await run(['member', 'rename', 'fionn', 'Fionn of the quay'])).code).to.equal(0);
    const [, fionn] = JSON.parse((await run(['member', 'list', '--json'])).out) as MemberDetail[];
    expect([fionn!.name, fionn!.sites]).to.deep.equal([
      'Fionn of the quay',
      [{ site: 'quay', siteName: 'quay', role: 'publish' }],
    ]);
    expect((await run(['member', 'password', 'fionn'])).out).to.match(/\n\n {2}\w{4}-\w{4}-\w{4}-\w{4}\n$/);
    const asked = await run(['member', 'remove', 'fionn']);
    expect([asked.code, asked.err]).to.deep.equal([
      2,
      'pragmatica: This ends all sessions and tokens of fionn. Programs that use one stop working. To go on, repeat it with --yes.\n',
    ]);
    expect((await run(['member', 'remove', 'fionn', '--yes'])).out).to.equal(
      'fionn is no longer a member.\n',
    );
    const gone = await run(['member', 'remove', 'fionn', '--yes']);
    expect([gone.code, gone.err]).to.deep.equal([4, 'pragmatica: There is no member "fionn".\n']);
  });

  it('withdraws an invitation, and says what one must name', async () => {
    await run(['member', 'invite', 'Bran', '--everywhere', 'view']);
    const id = /^(\d+) +Bran +all sites: view/m.exec((await run(['member', 'invitations'])).out)![1]!;
    expect((await run(['member', 'withdraw', id])).out).to.equal(`Invitation ${id} is withdrawn.\n`);
    const nothing = await run(['member', 'invite', 'Bran']);
    expect([nothing.code, nothing.err]).to.deep.equal([
      2,
      'pragmatica: Say what it is to: --at site=role, or --everywhere role.\n',
    ]);
    const wrong = await run(['member', 'invite', 'Bran', '--at', 'mill=boss']);
    expect(wrong.err).to.equal(
      'pragmatica: --at takes a site and a role, such as skerrywick=edit. Roles: view, edit, publish, own.\n',
    );
  });

  it('makes tokens for less, and a command says what one lacks', async () => {
    const { out } = await run(['token', 'create', 'Mill', '--role', 'deploy', '--only-site', 'mill']);
    const pipeline = as(/pragmatica_[\w-]{43}/.exec(out)![0]);
    expect((await run(['token', 'list'])).out).to.match(/^\d+ +Mill +deploy at mill +20/m);
    expect((await pipeline(['sites'])).out)
      .to.include('mill')
      .and.not.include('quay');
    const renamed = await pipeline(['field', 'define', 'tone', '--label', 'Tone', '--site', 'mill']);
    expect(renamed.code).not.to.equal(0);
    expect(renamed.err).to.equal(
      'pragmatica: You can look at “mill”, but not change anything there. Ask Administrator.\n',
    );
    const own = await pipeline(['token', 'list']);
    expect(own.err).to.equal(
      'pragmatica: This token was made for less than your account may do, so it cannot change the account. Sign in yourself.\n',
    );
  });
});
