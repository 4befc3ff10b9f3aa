import { execFile } from 'node:child_process';
import { resolve } from 'node:path';
import { promisify } from 'node:util';
import { expect } from 'chai';

const CLI = resolve('packages/cli/bin/pragmatica.js');

/** What somebody sees on a terminal of so many lines; `script` (util-linux) gives one. */
async function onTerminal(rows: number, args: string, env: Record<string, string>): Promise<string> {
  const command = `stty rows ${rows} cols 100; node ${CLI} ${args}`;
  const { stdout } = await promisify(execFile)('script', ['-qec', command, '/dev/null'], {
    env: { ...process.env, NO_COLOR: '1', ...env },
  });
  return stdout.replaceAll('\r', '');
}

const MARKED = { PAGER: 'sed "s/^/paged: /"' };

describe('what does not fit on a terminal', function () {
  this.timeout(60_000);

  it('goes through the pager, whole', async () => {
    const plain = await onTerminal(12, '--help', { PAGER: '' });
    const paged = await onTerminal(12, '--help', MARKED);
    expect(plain).to.include('Usage: pragmatica').and.not.include('paged: ');
    expect(paged).to.equal(plain.replace(/^(?=.)/gm, 'paged: ').replace(/^$(?=\n)/gm, 'paged: '));
  });

  it('is everything where the terminal is high enough, and nothing in a pipe', async () => {
    expect(await onTerminal(500, '--help', MARKED)).not.to.include('paged: ');
    const { stdout } = await promisify(execFile)('node', [CLI, '--help'], {
      env: { ...process.env, ...MARKED },
    });
    expect(stdout).to.include('Usage: pragmatica').and.not.include('paged: ');
  });

  it('is shown all the same where there is no such pager', async () => {
    const shown = await onTerminal(12, '--help', { PAGER: 'no-such-pager' });
    expect(shown).to.include('Usage: pragmatica').and.include('not found');
  });

  it('ends as it would without one', async () => {
    const status = await onTerminal(2, 'publish --nonsense; echo "status $?"', MARKED);
    expect(status).to.include('status 2');
  });
});
