import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';

describe('the script of parts that wait', () => {
  it('is what its source comes to', function () {
    this.timeout(60_000);
    const script = fileURLToPath(new URL('../../scripts/build-waiting.mjs', import.meta.url));
    expect(execFileSync(process.execPath, [script, '--check'], { encoding: 'utf8' })).to.equal('');
  });
});
