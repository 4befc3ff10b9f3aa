import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

const params = { site: 'mill' };

describe('the history, on the command line', function () {
  this.timeout(60_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;
  before(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-history-'));
    const plain = cliRunner(() => stage.server, folder);
    run = (args) => plain(args, { env: { PRAGMATICA_TOKEN: stage.token, COLUMNS: '140' } });
    const part = { placement: 'head-end' as const, code: '<script>var chat;</script>' };
    await stage.client.call('createSnippet', { params, body: { name: 'Chat', parts: [part] } });
  });
  after(async () => {
    await stage.close();
    rmSync(folder, { recursive: true });
  });

  const edit = async (body: object): Promise<string> => {
    await stage.client.call('editSnippet', { params: { ...params, snippet: 'chat' }, ifMatch: '*', body });
    const { items } = (await stage.client.call('listActivity', { params, query: { limit: 1 } })).data;
    return String(items[0]!.id);
  };
  const note = async () =>
    (await stage.client.call('showSnippet', { params: { ...params, snippet: 'chat' } })).data.note;

  it('lists what was done, narrowed by words, snippet and person, at one site or at all', async () => {
    const list = (await run(['history', 'list', '--site', 'mill'])).out;
    expect(list).to.match(/^ID +WHEN +BY +WHAT$/m);
    expect(list).to.match(/^\d+ +20\d\d-\S+ \S+ +admin \(command line\) +Added “Chat” to the draft\.$/m);
    expect(
      (await run(['history', 'list', '--site', 'mill', '--search', 'tide', '--snippet', 'chat'])).out,
    ).to.equal('Nothing that fits.\n');
    const all = (await run(['history', 'list', '--everywhere', '--by', 'admin', '--json'])).out;
    expect((JSON.parse(all) as { site: unknown }[]).map(({ site }) => site)).to.include.members([
      'mill',
      null,
    ]);
  });

  it('shows what a change did, and takes it back', async () => {
    const id = await edit({ note: 'First', state: 'off' });
    const shown = (await run(['history', 'show', id])).out;
    expect(shown).to.contain('from 127.0.0.1');
    expect(shown).to.match(/^Chat$/m);
    expect(shown).to.match(/^ {2}on or off: switched on → switched off$/m);
    expect(shown).to.match(/^ {2}note: nothing → “First”$/m);
    const preview = await run(['history', 'undo', id, '--preview']);
    expect(preview.out).to.contain('Undoing it would change 2 things:');
    expect(await note()).to.equal('First');
    expect((await run(['history', 'undo', id])).err).to.contain('Undone. The draft has changed');
    expect(await note()).to.equal('');
    expect((await run(['history', 'undo', id])).out).to.equal(
      'The draft is already as it was before that change.\n',
    );
  });

  it('asks what is to be there where something was changed again since, and ends with 5', async () => {
    const id = await edit({ note: 'Second' });
    await edit({ note: 'Third' });
    const asked = await run(['history', 'undo', id]);
    expect(asked.code).to.equal(5);
    expect(asked.out).to.contain('chat/note\n    “Chat”: note\n    now: “Third”\n    before: nothing');
    expect(asked.err).to.contain('--choose chat/note=before');
    expect(await note()).to.equal('Third');
    expect((await run(['history', 'undo', id, '--choose', 'yesterday'])).code).to.equal(2);
    expect((await run(['history', 'undo', id, '--choose', 'now'])).code).to.equal(0);
    expect(await note()).to.equal('Third');
    expect((await run(['history', 'undo', id, '--choose', 'chat/note=before'])).code).to.equal(0);
    expect(await note()).to.equal('');
  });

  it('brings a removed snippet back', async () => {
    expect((await run(['history', 'removed'])).out).to.equal('No snippet was removed.\n');
    await run(['snippet', 'remove', 'chat', '--yes']);
    expect((await run(['history', 'removed'])).out).to.match(/^chat +Chat +20\S+ \S+ +admin$/m);
    expect((await run(['history', 'bring-back', 'chat'])).out).to.contain('“Chat” is back in the draft.');
    const gone = await run(['history', 'bring-back', 'chat']);
    expect([gone.code, gone.err]).to.deep.equal([
      4,
      'pragmatica: No snippet “chat” was removed from the draft. List those that were: pragmatica history removed\n',
    ]);
  });

  it('prints the head of the trail, and checks against it', async () => {
    const head = (await run(['history', 'head'])).out.trim();
    expect(head).to.match(/^\d+:[0-9a-f]{64}$/);
    await edit({ note: 'Later' });
    const checked = await run(['history', 'verify', '--head', head]);
    expect([checked.code, checked.out]).to.satisfy(
      ([code, out]: [number, string]) => code === 0 && out.startsWith('The trail is whole: all '),
    );
    const wrong = await run(['history', 'verify', '--head', `1:${'0'.repeat(64)}`]);
    expect(wrong.code).to.equal(1);
    expect(wrong.out).to.contain('The trail was changed: one fault');
    expect((await run(['history', 'verify', '--head', 'x'])).code).to.equal(2);
  });
});
