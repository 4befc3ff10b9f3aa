import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { expect } from 'chai';
import { POINTER_SCRIPT, RELEASE_SCRIPT } from '../../packages/core/dist/deliver/one-line/scripts.js';

const THREE_KB = 3 * 1024;

describe('the scripts of the one line', () => {
  it('are what their sources come to', function () {
    this.timeout(60_000);
    const script = fileURLToPath(new URL('../../scripts/build-one-line.mjs', import.meta.url));
    expect(execFileSync(process.execPath, [script, '--check'], { encoding: 'utf8' })).to.equal('');
  });

  it('are under 3 KB when they are sent', () => {
    expect(gzipSync(RELEASE_SCRIPT, { level: 9 }).length).to.be.lessThan(THREE_KB);
    expect(brotliCompressSync(POINTER_SCRIPT + RELEASE_SCRIPT).length).to.be.lessThan(THREE_KB);
  });
});
