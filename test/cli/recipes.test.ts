import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

describe('recipes on the command line', function () {
  let stage: Stage;
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-cli-'));
  const plain = cliRunner(() => stage.server, folder);
  const run: RunCli = (args) => plain(args, { env: { PRAGMATICA_TOKEN: stage.token } });
  const json = async (...args: string[]) => JSON.parse((await run([...args, '--json'])).out) as never;
  before(async () => (stage = await startStage({ isWhole: true })));
  after(() => stage.close());

  it('are listed with their installs, and shown whole', async () => {
    const { out } = await run(['recipe', 'list']);
    expect(out).to.match(/tallymast-counter +2 +5 \(5 behind\) +Tallymast counter/);
    expect(out).to.match(/tallymast-image +1 +none +Tallymast image +retired/);
    const shown = (await run(['recipe', 'show', 'parlanook-chat'])).out;
    for (const text of [
      'Parlanook chat  version 1  Parlanook',
      'chat_room  Room at Parlanook (id), for example your-room',
      'Register {host} in Parlanook’s list of domains (each host)',
      'skerrywick/harbour-chat  version 1',
    ])
      expect(shown).to.include(text);
    const near = await run(['recipe', 'show', 'parlanok-chat']);
    expect([near.code, near.err]).to.deep.equal([
      4,
      'pragmatica: There is no recipe "parlanok-chat". Did you mean "parlanook-chat"?\n',
    ]);
  });

  it('are applied to several sites, each with its own values', async () => {
    const { code, out } = await run([
      ...['recipe', 'apply', 'parlanook-chat', '--site', 'port-hallow,tern-hostel', '--yes'],
      ...['chat_room=harbour', 'tern-hostel/chat_room=hostel'],
    ]);
    expect(code).to.equal(0);
    expect(out).to.match(/port-hallow +done +“Parlanook chat” is in the draft: at the end of the body\./);
    const fields = (await run(['field', 'list', '--site', 'port-hallow,tern-hostel'])).out;
    expect(fields).to.match(/port-hallow +@{chat_room} +id +harbour/);
    expect(fields).to.match(/tern-hostel +@{chat_room} +id +hostel/);
    const again = await run(['recipe', 'apply', 'parlanook-chat', '--site', 'port-hallow', '--yes']);
    expect(again.code).to.equal(1);
    const wrong = await run(['recipe', 'apply', 'parlanook-chat', '--site', 'port-hallow', 'chat room']);
    expect([wrong.code, wrong.err]).to.satisfy(
      ([status, text]: [number, string]) => status === 2 && text.includes('Write a value like'),
    );
    const stray = await run([
      'recipe',
      'apply',
      'parlanook-chat',
      '--site',
      'port-hallow',
      'skerrywick/chat_room=x',
    ]);
    expect(stray.err).to.include('which is not among those named');
  });

  it('bring up what is behind after a preview, one or all', async () => {
    const { out } = await run(['recipe', 'behind']);
    expect(out).to.include('• It counts pages by their titles, too, which Tallymast asks for since October.');
    expect(out).to.match(/port-hallow\/visit-counter +tallymast-counter +1 +2/);
    const preview = (await run(['recipe', 'update', 'port-hallow/visit-counter', '--preview'])).out;
    expect(preview).to.match(/^ {4}- <script async .*\n {4}\+ <script async .* data-titles="yes"/m);
    expect(preview).to.include('1 snippet would change in the drafts; nothing was changed now.');
    await run(['recipe', 'update', 'port-hallow/visit-counter']);
    const left: readonly { site: string }[] = await json('recipe', 'behind');
    expect(left.map(({ site }) => site)).to.have.members([
      'quay-kitchen',
      'skerrywick',
      'skerrywick-freight',
      'tern-hostel',
    ]);
    const wrong = await run(['recipe', 'update', 'port-hallow/visit-counter']);
    expect([wrong.code, wrong.err]).to.satisfy(
      ([status, text]: [number, string]) =>
        status === 4 && text.includes('"port-hallow/visit-counter" is not outdated.'),
    );
    expect((await run(['recipe', 'update', '--all'])).out.match(/ done /g)).to.have.length(4);
    expect((await run(['recipe', 'behind'])).out).to.equal(
      'Every snippet follows the newest version of its recipe.\n',
    );
    expect((await run(['recipe', 'update'])).code).to.equal(2);
  });

  it('are made of a snippet, exported, changed and imported, each file by itself', async () => {
    writeFileSync(
      join(folder, 'gauge.html'),
      '<script async src="https://g.example/g.js?site=TG-55812"></script>',
    );
    await run([
      'snippet',
      'add',
      'Gauge',
      '--placement',
      'head-end',
      '--code',
      'gauge.html',
      '--site',
      'port-hallow',
    ]);
    const made = await run(['recipe', 'make', 'gauge', '--site', 'port-hallow']);
    expect(made.out).to.equal('Created version 1 of the recipe gauge.\nIt asks for: Site at g.example.\n');
    await run(['recipe', 'export', 'gauge', '--out', 'files']);
    const file = join(folder, 'files/gauge.json');
    const recipe = JSON.parse(readFileSync(file, 'utf8')) as Record<string, unknown>;
    writeFileSync(join(folder, 'next.json'), JSON.stringify({ ...recipe, version: 2, changes: 'Faster.' }));
    writeFileSync(join(folder, 'broken.json'), '{');
    writeFileSync(join(folder, 'wrong.json'), JSON.stringify({ ...recipe, version: 3, parts: [] }));
    const imported = await run([
      'recipe',
      'import',
      'broken.json',
      file,
      'next.json',
      'wrong.json',
      'none.json',
    ]);
    expect(imported.out).to.equal('gauge has this version 1 already.\nAdded version 2 of gauge.\n');
    expect(imported.err.trim().split('\n')).to.satisfy(
      ([broken, wrong, none]: string[]) =>
        /^broken\.json: This is not JSON/.test(broken!) &&
        wrong!.startsWith('wrong.json: parts: A recipe needs at least one part.') &&
        none === 'none.json: The file none.json cannot be read.',
    );
    expect(imported.code).to.equal(4);
    const schema: { readonly $id: string } = await json('recipe', 'schema');
    expect(schema.$id).to.include('pragmatica-recipe');
    const gauge = ['gauge', '--site', 'port-hallow'];
    const left = await run(['recipe', 'leave', ...gauge]);
    expect(left.out).to.equal('Detached "gauge" from the recipe gauge. Its code is unchanged.\n');
    const back = await run(['recipe', 'follow', ...gauge]);
    expect(back.out).to.match(/^"gauge" follows the recipe gauge, version 2\./);
  });

  it('are named where their code is pasted', async () => {
    const code = `<script async src="http://easewheel.localhost:${stage.providerPort}/ease.js"></script>`;
    writeFileSync(join(folder, 'ease.html'), code);
    const { err } = await run([
      'snippet',
      'add',
      '--paste',
      '--yes',
      '--code',
      'ease.html',
      '--site',
      'port-hallow',
    ]);
    expect(err).to.include(
      'There is a recipe for this\n  Easewheel menu: pragmatica recipe apply easewheel-menu',
    );
  });

  it('are retired and brought back', async () => {
    const retired = await run([
      'recipe',
      'retire',
      'gauge',
      '--reason',
      'It ends in May.',
      '--replaced-by',
      'tallymast-counter',
    ]);
    expect(retired.out).to.include('is retired from version 3 on');
    expect((await run(['recipe', 'show', 'gauge'])).out).to.include(
      'Retired: It ends in May. Use "tallymast-counter" instead.',
    );
    expect((await run(['recipe', 'retire', 'gauge', '--undo'])).out).to.include(
      'is no longer retired from version 4 on',
    );
    expect((await run(['recipe', 'retire', 'gauge'])).code).to.equal(2);
  });

  it('have a checklist that is ticked off step by step', async () => {
    const site = ['--site', 'skerrywick'];
    const open = (await run(['checklist', '--open', ...site])).out;
    expect(open).to.equal(
      `Parlanook chat  for “Harbour chat”
  ○ Register staging.skerrywick.localhost in Parlanook’s list of domains
    On other domains the button does not show.
    Done? pragmatica tick parlanook-chat/domain@staging.skerrywick.localhost
`,
    );
    const id = 'parlanook-chat/domain@staging.skerrywick.localhost';
    const near = await run(['tick', id.replace('domain', 'domian'), ...site]);
    expect(near.err).to.include(`Did you mean "${id}"?`);
    expect((await run(['tick', id, ...site])).out).to.equal(
      'Done: Register staging.skerrywick.localhost in Parlanook’s list of domains.\n',
    );
    expect((await run(['checklist', '--open', ...site])).out).to.equal('All done.\n');
    expect((await run(['check', ...site])).out).not.to.include('Parlanook');
    expect((await run(['tick', '--undo', id, ...site])).out).to.match(/^Not done after all: /);
  });
});
