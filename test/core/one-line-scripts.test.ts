import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { compileLine, releaseFile, type Placement } from '@pragmatica/core';
import { expect } from 'chai';
import {
  PLACE_SCRIPT,
  POINTER_SCRIPT,
  RELEASE_SCRIPT,
} from '../../packages/core/dist/deliver/one-line/scripts.js';

import { part, set, snippet } from '../support/sets.js';

const THREE_KB = 3 * 1024;

describe('the scripts of the one line', () => {
  it('are what their sources come to', function () {
    this.timeout(60_000);
    const script = fileURLToPath(new URL('../../scripts/build-one-line.mjs', import.meta.url));
    expect(execFileSync(process.execPath, [script, '--check'], { encoding: 'utf8' })).to.equal('');
  });

  it('come with what finds elements only where parts go to elements', () => {
    const text = (placement: Placement): string =>
      releaseFile('s', compileLine(set(snippet('a', { parts: [part(placement, 0, '<b>x</b>')] })), 'live'))
        .text;
    expect(text('body-end')).not.to.include(PLACE_SCRIPT);
    expect(text({ anchor: 'a', side: 'inside' })).to.include(PLACE_SCRIPT);
    expect(text({ selector: 'main > p:nth-child(2)', side: 'after' }))
      .to.include(PLACE_SCRIPT)
      .and.include('"main"')
      .and.include('[["main",0,0,0],["p",1,2,0]]');
  });

  it('are under 3 KB when they are sent', () => {
    expect(gzipSync(RELEASE_SCRIPT, { level: 9 }).length).to.be.lessThan(THREE_KB);
    expect(brotliCompressSync(POINTER_SCRIPT + RELEASE_SCRIPT).length).to.be.lessThan(THREE_KB);
  });
});
