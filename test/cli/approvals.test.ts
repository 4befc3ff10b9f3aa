import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { makeMember } from '../support/members.js';
import { startStage, type Stage } from '../support/stage.js';

describe('four eyes, on the command line', function () {
  this.timeout(60_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;
  let other: RunCli;
  before(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-approvals-'));
    const plain = cliRunner(() => stage.server, folder);
    const as =
      (token: string): RunCli =>
      (args) =>
        plain(args, { env: { PRAGMATICA_TOKEN: token, COLUMNS: '140' } });
    run = as(stage.token);
    other = as(await makeMember(stage, 'fionn', { sites: { mill: 'publish' } }));
  });
  after(async () => {
    await stage.close();
    rmSync(folder, { recursive: true });
  });

  const add = async (name: string) =>
    stage.client.call('createSnippet', {
      params: { site: 'mill' },
      body: { name, parts: [{ placement: 'head-end', code: `<script>var ${name};</script>` }] },
    });

  it('ask, show, approve and publish', async () => {
    expect((await run(['approval', 'rule'])).out).to.equal(
      'What goes live on this site needs no approval.\n',
    );
    expect((await run(['approval', 'rule', 'required'])).out).to.match(
      /^What goes live on this site is approved by somebody else first, since 20\S+ \S+ \(admin\)\.\n$/,
    );
    await add('chat');
    const refused = await run(['publish', '-m', 'Chat']);
    expect(refused.code).to.equal(5);
    expect(refused.err).to.contain('pragmatica approval ask');
    expect((await run(['approval', 'ask', '-m', 'The chat'])).out).to.match(/^Asked as 1\. /);
    expect((await run(['approval', 'approve', '1'])).err).to.contain('Somebody else has to give it.');
    const shown = (await other(['approval', 'show', '1'])).out;
    expect(shown).to.match(/^1 {2}waiting {2}The chat\nAsked by admin, 20/);
    expect(shown).to.contain('What changes:\n  • “chat” is new: at the end of the head, on all pages.');
    expect(shown).to.contain('Not rehearsed.\nNot weighed.');
    expect((await other(['approval', 'approve', '1', '--note', 'Looks right'])).out).to.equal(
      '1 is approved. Publish it with: pragmatica publish\n',
    );
    expect((await run(['approval', 'show', '1'])).out).to.contain('Approved by fionn, 20');
    expect((await run(['publish', '-m', 'Chat', '--to', 'live'])).code).to.equal(0);
    expect((await run(['approval', 'list'])).out).to.match(/^1 +published +20\S+ \S+ +admin +The chat$/m);
  });

  it('decline, withdraw, and say what is void', async () => {
    await add('counter');
    await run(['approval', 'ask', '-m', 'A counter']);
    expect((await other(['approval', 'decline', '2', '--note', 'Not before Easter'])).out).to.equal(
      '2 is declined.\n',
    );
    expect((await run(['approval', 'show', '2'])).out).to.match(
      /Declined by fionn, .*\n“Not before Easter”\n$/,
    );
    await run(['approval', 'ask', '-m', 'Once more']);
    await add('pixel');
    expect((await run(['approval', 'show', '3'])).err).to.equal(
      'The draft has changed since it was asked for. Ask again.\n',
    );
    await run(['approval', 'ask', '-m', 'And again']);
    expect((await run(['approval', 'withdraw', '4'])).out).to.equal('4 is withdrawn.\n');
    const over = await other(['approval', 'approve', '4']);
    expect([over.code, over.err]).to.deep.equal([
      5,
      'pragmatica: Nothing is to be decided here any more: it was withdrawn.\n',
    ]);
  });

  it('make a link for a client', async () => {
    await run(['approval', 'ask', '-m', 'For Nell']);
    const { out } = await run(['approval', 'link', '5', 'Nell']);
    expect(out).to.match(/^Send Nell this link\. It works until 20/);
    expect(out).to.match(/\n {2}http:\S+\/approval#\S{40,}\n$/);
    expect((await run(['approval', 'show', '99'])).code).to.equal(4);
  });
});
