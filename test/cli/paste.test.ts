import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

describe('ways without the gateway, on the command line', function () {
  this.timeout(90_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;

  before(async () => {
    stage = await startStage();
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-paste-'));
    const plain = cliRunner(() => stage.server, folder);
    const env = { PRAGMATICA_TOKEN: stage.token, PRAGMATICA_SITE: 'skerrywick', COLUMNS: '110' };
    run = (args, more = {}) => plain(args, { ...more, env: { ...env, ...more.env } });
  });

  after(async () => {
    rmSync(folder, { recursive: true });
    await stage.close();
  });

  it('say which boxes to describe, and then what goes into them', async () => {
    expect((await run(['paste'])).out).to.match(/^No boxes are described yet\. Say which ones/);
    const nameless = await run(['paste', 'box', 'site-head']);
    expect(nameless.err).to.equal('pragmatica: Say what the box is called in your site builder: --name.\n');
    await run(['paste', 'box', 'site-foot', '--name', 'Footer code', '--max-length', '3000']);
    const kept = await run(['paste', 'box', 'site-head', '--name', 'Head code']);
    expect(kept.out).to.equal('Saved. 2 blocks: "pragmatica paste" lists what goes where.\n');
    const { out, err } = await run(['paste']);
    expect(out).to.match(/^Release 1, for the boxes of the site builder:\n\nBOX +KIND +PAGE +STATE +HOLDS\n/);
    expect(out).to.match(/Head code +site-head +all pages +to paste +Cookie question, Tag container/);
    expect(out).to.match(/The block for “Footer code” is [\d,]+ characters too long/);
    expect(err).to.include('Next: "pragmatica paste text site-head" prints what goes into “Head code”.');
  });

  it('print a block to copy, note that it is pasted, and look whether it is', async () => {
    const { out } = await run(['paste', 'text', 'site-head']);
    expect(out).to.match(/^<!-- Pragmatica skerrywick release 1 site-head [0-9a-f]{12} -->\n<script src=/);
    expect((await run(['paste', 'done', 'site-head'])).out).to.equal('“Head code” is done. One is left.\n');
    const check = await run(['paste', 'check']);
    expect(check.code).to.equal(1);
    expect(check.out).to.match(/✗ \/\n {4}“Head code” has no block of ours\. Was it pasted and saved/);
    expect((await run(['paste', 'done', 'site-head', '--empty'])).out).to.match(/^Noted/);
    const none = await run(['paste', 'text', 'page-head', '--page', '/fares']);
    expect([none.code, none.err]).to.deep.equal([
      4,
      'pragmatica: Nothing goes into page-head of /fares. "pragmatica paste" lists what does.\n',
    ]);
  });

  it('are handed over by a link, for somebody without an account', async () => {
    const made = await run(['paste', 'handover', '--days', '3']);
    expect(made.out).to.match(
      /^Whoever has this link sees the blocks to paste, and ticks them off\. It works until .*\n {2}http:\/\/\S+\/handover#pragmatica_\S+\n$/,
    );
    expect((await run(['paste', 'handover', '--list'])).out).to.match(/^LINK .*\n1 +live +\S+ .* not yet\n/);
    expect((await run(['paste', 'handover', '--end', '1'])).out).to.equal('Link 1 works no longer.\n');
    expect((await run(['paste', 'handover', '--list'])).out).to.equal('No links.\n');
    expect((await run(['paste', 'handover', '--end', '1'])).code).to.equal(4);
  });

  it('write a sheet for somebody else', async () => {
    await run(['paste', 'sheet', '--out', 'sheet.md']);
    const sheet = readFileSync(join(folder, 'sheet.md'), 'utf8');
    expect(sheet).to.match(/^# Skerrywick Ferries: code to paste, release 1\n/);
    expect(sheet).to.match(
      /## 1\. Head code\n\n- \[ \] Paste, in the head of all pages\n\n```html\n<!-- Pragmatica/,
    );
  });

  it('print the one line', async () => {
    const { out } = await run(['line', '--environment', 'staging']);
    expect(out).to.include('<script src="https://code.example.com/one/skerrywick.staging.js"></script>');
  });

  it('write the files of the one line, and what to paste once', async () => {
    const { out, err } = await run([
      'export',
      '--one-line',
      'one',
      '--address',
      'https://files.example/one/',
    ]);
    expect(out).to.include('<script src="https://files.example/one/skerrywick.js"></script>');
    expect(out).to.include('<script async src="https://files.example/one/skerrywick.js"></script>');
    expect(err).to.match(/It contains opening hours up to/);
    const [release] = readdirSync(join(folder, 'one/skerrywick'));
    expect(readFileSync(join(folder, 'one/skerrywick.js'), 'utf8')).to.include(release!.replace('.js', ''));
    await run(['export', '--of', 'draft', '--out', 'set.json']);
    const offline = await run(['export', '--one-line', 'two', '--set', 'set.json', '--json'], {
      env: { PRAGMATICA_TOKEN: '' },
    });
    const data = JSON.parse(offline.out) as { pointer: string; release: string; integrity: string };
    expect(existsSync(join(folder, 'two', data.release))).to.equal(true);
    expect(data.integrity).to.match(/^sha256-[\w+/]{43}=$/);
  });
});
