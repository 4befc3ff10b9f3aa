import { cpSync, mkdirSync, mkdtempSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect } from 'chai';
import { BINARY } from '../support/cli.js';

/** Of the command line that is built, or of a copy of it. */
const builtOf = (folder: string): string => join(folder, 'dist', 'pragmatica.cjs');
const OWN = builtOf(join(dirname(BINARY), '..'));

describe('what V8 made of the command line', function () {
  this.timeout(60_000);
  let folder: string;

  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-cli-'));
    mkdirSync(join(folder, 'dist'));
    writeFileSync(join(folder, 'package.json'), '{ "type": "module" }');
    cpSync(dirname(BINARY), join(folder, 'bin'), { recursive: true });
    cpSync(OWN, builtOf(folder), { preserveTimestamps: true });
  });
  afterEach(() => {
    rmSync(folder, { recursive: true, force: true });
  });

  const version = (): string =>
    execFileSync(process.execPath, [join(folder, 'bin', 'pragmatica.js'), '--version'], {
      encoding: 'utf8',
      env: { HOME: folder },
    });

  it('stands beside it, and is younger', () => {
    expect(statSync(`${OWN}.cache`).mtimeMs).to.be.at.least(statSync(OWN).mtimeMs);
  });

  it('may be missing', () => {
    expect(version()).to.equal('0.1.0\n');
  });

  it('may be damaged, or of another version', () => {
    writeFileSync(`${builtOf(folder)}.cache`, 'what is this');
    expect(version()).to.equal('0.1.0\n');
  });

  it('is not taken for a script that was built after it, whatever its length', () => {
    cpSync(`${OWN}.cache`, `${builtOf(folder)}.cache`);
    const text = `console.log('another');`;
    writeFileSync(builtOf(folder), text.padEnd(statSync(OWN).size));
    const before = new Date(Date.now() - 60_000);
    utimesSync(`${builtOf(folder)}.cache`, before, before);
    expect(version()).to.equal('another\n');
  });
});
