import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { allTexts } from '../support/all-texts.js';
import { cliRunner, type RunCli } from '../support/cli.js';
import { pseudoTranslation } from '../support/pseudo.js';

describe('the command line in another language', function () {
  this.timeout(60_000);
  let folder: string;
  let run: RunCli;
  before(() => {
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-language-'));
    writeFileSync(join(folder, 'pseudo.json'), JSON.stringify(pseudoTranslation(allTexts())));
    writeFileSync(join(folder, 'empty.json'), '{"tag":"ga","texts":{}}');
    run = cliRunner(() => 'http://localhost:1', folder);
  });
  after(() => rmSync(folder, { recursive: true }));
  const speaking = (file: string) => ({ env: { PRAGMATICA_LANGUAGE: join(folder, file) } });

  it('says its help in it', async () => {
    const { out } = await run(['publish', '--help'], speaking('pseudo.json'));
    expect(out)
      .to.include('Usage: pragmatica publish')
      .and.include('-m, --message <text>')
      .and.include('ẇħȧŧŧŧ');
  });

  it('says in English what a language lacks', async () => {
    const { out } = await run(['publish', '--help'], speaking('empty.json'));
    expect(out).to.include('publish the draft as a new release');
  });

  it('says which file it cannot use, and stops', async () => {
    const { err, code } = await run(['--help'], speaking('none.json'));
    expect(code).to.equal(2);
    expect(err).to.include('none.json cannot be used').and.include('no such file');
  });
});
