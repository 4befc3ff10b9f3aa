import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

describe('the width of what the command line says', function () {
  this.timeout(120_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;
  before(async () => {
    stage = await startStage();
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-width-'));
    const plain = cliRunner(() => stage.server, folder);
    const signedIn = { PRAGMATICA_TOKEN: stage.token, PRAGMATICA_SITE: 'skerrywick' };
    run = (args, more) => plain(args, { ...more, env: { ...signedIn, ...more?.env } });
    await run(['snippet', 'add', 'Twice', '--placement', 'head-end', '--code', '-'], {
      input: "<script>tallyUnknown('seen'); document.getElementById('nowhere').remove();</script>",
    });
    const islands = Array.from({ length: 12 }, (_, i) => `/islands/island-number-${i}`);
    await run(['snippet', 'edit', 'harbour-chat', '--pages', ...islands]);
  });
  after(async () => {
    await stage.close();
    rmSync(folder, { recursive: true });
  });

  const widest = (out: string): number => Math.max(...out.split('\n').map((line) => line.length));

  it('is that of COLUMNS, for sentences and for tables', async () => {
    for (const COLUMNS of ['60', '110'])
      for (const args of [['check'], ['snippet', 'list'], ['explain'], ['diff'], ['--help']]) {
        const { out } = await run(args, { env: { COLUMNS } });
        // Examples are to be copied: they stay in one line.
        const [told] = out.split('\nGetting started:');
        expect(widest(told!), `${args.join(' ')} at ${COLUMNS}`).to.be.within(30, Number(COLUMNS));
      }
  });

  it('goes on below where a sentence begins', async () => {
    const { out } = await run(['check'], { env: { COLUMNS: '60' } });
    const lines = out.split('\n');
    const advice = lines.findIndex((line) => line.startsWith('    → '));
    expect(lines[advice + 1]).to.match(/^ {6}\S/);
  });

  it('is nobody’s where nobody asks: in a pipe a line stays a line, and the columns of a table but the last one', async () => {
    const [narrow, piped] = [await run(['check'], { env: { COLUMNS: '60' } }), await run(['check'])];
    const words = (text: string): string => text.replace(/\s+/g, ' ').trim();
    expect(words(piped.out)).to.equal(words(narrow.out));
    expect(widest(piped.out)).to.be.greaterThan(110);
    const { out } = await run(['snippet', 'list']);
    expect(out.split('\n').filter((line) => /number-0\b.*number-11\b/.test(line))).to.have.length(1);
  });

  it('groups the commands by task', async () => {
    const { out } = await run(['--help']);
    const headings = out.match(/^[A-Z][a-z ]+:$/gm);
    expect(headings).to.include.members(['Snippets:', 'Checks:', 'Publishing:', 'Delivery:']);
    expect(out).not.to.match(/^ {2}complete /m);
  });
});
