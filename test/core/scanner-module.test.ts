import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';

describe('the page machine in WebAssembly', () => {
  it('is what its sources compile to', function () {
    this.timeout(180_000);
    const script = fileURLToPath(new URL('../../scripts/build-scanner.mjs', import.meta.url));
    expect(execFileSync(process.execPath, [script, '--check'], { encoding: 'utf8' })).to.equal('');
  });
});
