import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';
import { ownSite, type OwnSite } from '../support/surveys.js';

describe('a site by its address, on the command line', function () {
  this.timeout(90_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;
  let site: OwnSite;

  before(async () => {
    stage = await startStage({ hasDemo: false, hasWorker: true });
    site = await ownSite({
      '/': '<title>Tide Mill</title><script src="https://tallymast.example/count.js"></script>',
    });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-add-'));
    const plain = cliRunner(() => stage.server, folder);
    const env = { PRAGMATICA_TOKEN: stage.token, COLUMNS: '110' };
    run = (args, more = {}) => plain(args, { ...more, env: { ...env, ...more.env } });
  });

  after(async () => {
    rmSync(folder, { recursive: true });
    site.close();
    await stage.close();
  });

  it('is looked at, and told which way suits it', async () => {
    const { code, out, err } = await run(['site', 'add', `mill.localhost:${site.port}`, '--can', 'site-box']);
    expect([code, err]).to.deep.equal([0, `Looking at mill.localhost:${site.port} …\n`]);
    expect(out).to.include(`Tide Mill answers at http://mill.localhost:${site.port}.\n`);
    expect(out).to.include('  · Its one page was read.\n  · Already in them: Tallymast visit counter.\n');
    expect(out).to.include('Added it as "tide-mill".\n');
    expect(out).to.include('Use the one line, in order. You paste one line once.');
    expect(out).to.match(/Visitors without JavaScript: They get nothing/);
    expect(out).to.match(/<script src="[^"]*\/one\/tide-mill\.js"><\/script>/);
    expect((await run(['site', 'show', 'tide-mill'])).out).to.include('by  the one line, in order');
  });

  it('is asked about again, host by host, without touching a snippet', async () => {
    const paste = await run([
      'site',
      'way',
      'tide-mill',
      '--cannot',
      'site-box',
      'domain',
      '--can',
      'page-box',
      '--cannot',
      'files',
    ]);
    expect(paste.out).to.match(/^Use blocks to paste\./);
    expect((await run(['site', 'show', 'tide-mill'])).out).to.include('by  blocks to paste');
    const open = await run(['site', 'way', 'tide-mill', '--cannot', 'site-box']);
    expect(open.err).to.match(/^Which way suits it\? Say with --can and --cannot/);
    const both = await run(['site', 'way', 'tide-mill', '--can', 'files', '--cannot', 'files']);
    expect([both.code, both.err]).to.deep.equal([
      2,
      'pragmatica: You named this both as possible and as not possible: files.\n',
    ]);
    const none = JSON.parse(
      (
        await run([
          'site',
          'way',
          'tide-mill',
          '--json',
          '--cannot',
          'site-box',
          'domain',
          'files',
          'page-box',
        ])
      ).out,
    ) as { way: string | null; because: string };
    expect(none.way).to.equal(null);
    expect(none.because).to.match(/^Without a box, the files or the domain, nothing can be added/);
    const back = await run(['site', 'edit', 'tide-mill', '--delivery', 'mill.localhost=async-line']);
    expect(back.out).to.include('by  the one line, async');
  });

  it('is not added where nobody answers, in one line that says what to do', async () => {
    const gone = await ownSite({});
    gone.close();
    const { code, err } = await run(['site', 'add', `localhost:${gone.port}`]);
    expect(code).to.equal(2);
    expect(err).to.match(/\npragmatica: address: Nothing answers at localhost:\d+\. .* in your browser\?\n$/);
    const twice = await run(['site', 'add', `mill.localhost:${site.port}`, '--key', 'other']);
    expect([twice.code, twice.err]).to.satisfy(
      ([exit, said]: [number, string]) =>
        exit === 5 && said.includes('already belongs to the site “Tide Mill”'),
    );
  });

  it('compares the ways', async () => {
    const { out } = await run(['site', 'ways']);
    expect(out.match(/^\S.*$/gm)).to.deep.equal([
      'The gateway',
      'The one line, in order',
      'The one line, async',
      'Blocks to paste',
      'Includes in your templates',
      'Your own Node.js server',
      'A folder of files',
    ]);
    expect(JSON.parse((await run(['site', 'ways', '--json'])).out)).to.have.length(7);
    const { out: texts } = await run(['fragments', '--site', 'tide-mill']);
    expect(texts).to.include('<!--# include virtual="/pragmatica/head-end?host=$host&path=$request_uri" -->');
    expect(texts).to.match(/proxy_pass \S+\/fragments\/tide-mill\/;/);
  });
});
