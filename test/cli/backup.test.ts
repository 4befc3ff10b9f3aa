import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect } from 'chai';
import { sql } from '../support/backups.js';
import { BINARY, cliRunner, type CliResult, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

describe('backups, on the command line', function () {
  this.timeout(90_000);
  let stage: Stage;
  let other: Stage;
  let folder: string;
  let run: RunCli;
  let there: RunCli;
  const runner = (of: Stage): RunCli => {
    const plain = cliRunner(() => of.server, folder);
    return (args, more = {}) =>
      plain(args, { ...more, env: { PRAGMATICA_TOKEN: of.token, COLUMNS: '400', ...more.env } });
  };

  before(async () => {
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-backup-'));
    const settings = { PRAGMATICA_BACKUPS: join(folder, 'kept') };
    [stage, other] = await Promise.all([
      startStage({ hasDemo: false, hasWorker: true, settings }),
      startStage({ hasDemo: false }),
    ]);
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
    const part = { placement: 'head-end' as const, code: '<script>var chat;</script>' };
    await stage.client.call('createSnippet', {
      params: { site: 'mill' },
      body: { name: 'Chat', parts: [part] },
    });
    [run, there] = [runner(stage), runner(other)];
  });
  after(async () => {
    await stage.close();
    await other.close();
    rmSync(folder, { recursive: true, force: true });
  });

  const done = (result: CliResult): string => {
    expect(result.code, result.err).to.equal(0);
    return result.out;
  };

  it('copy everything into a file that only its owner reads, named after the moment', async () => {
    const out = done(await run(['backup']));
    expect(out).to.match(
      /^Copied one site and \d+ rows into pragmatica-\d{4}-\d\d-\d\d-\d{4}\.tar\.gz, \d+ kB\. SHA-256: [0-9a-f]{64}$/m,
    );
    expect(out).to.include('The file is not encrypted. With it anybody can read everything');
    const file = readdirSync(folder).find((name) => name.endsWith('.tar.gz'))!;
    expect(statSync(join(folder, file)).mode & 0o777).to.equal(0o600);
    const json = JSON.parse(done(await run(['backup', 'plain.tar.gz', '--json', '--without-key']))) as object;
    expect(json).to.deep.include({
      file: 'plain.tar.gz',
      isEncrypted: false,
      hasKey: false,
      sites: ['mill'],
    });
  });

  it('write over no file that is there, and leave none half', async () => {
    const again = await run(['backup', 'plain.tar.gz']);
    expect(again).to.include({ code: 2 });
    expect(again.err).to.include('“plain.tar.gz” is there already.');
    done(await run(['backup', 'plain.tar.gz', '--overwrite']));
    const failed = await run(['backup', 'new.tar.gz'], { env: { PRAGMATICA_TOKEN: 'pgm_nobody' } });
    expect(failed.code).to.equal(3);
    expect(readdirSync(folder).filter((name) => name.startsWith('new.'))).to.deep.equal([]);
  });

  it('encrypt it for a key, made here', async () => {
    const made = await run(['backup', 'new-key']);
    const recipient = /age1[0-9a-z]{58}/.exec(made.out)![0];
    expect(made.err).to.include(recipient);
    writeFileSync(join(folder, 'backup.key'), made.out);
    writeFileSync(join(folder, 'recipients.txt'), `# who may read\n${recipient}\n`);
    done(await run(['backup', 'sealed.age', '--recipients-file', 'recipients.txt']));
    expect(readFileSync(join(folder, 'sealed.age'), 'latin1')).to.match(/^age-encryption\.org\/v1\n/);
    const wrong = await run(['backup', 'x.age', '--recipient', 'age1nope']);
    expect(wrong.err).to.include('“age1nope” is no recipient');
  });

  it('check it without a service, from its first byte to its last', async () => {
    const out = done(await run(['backup', 'check', 'sealed.age', '--key', 'backup.key']));
    expect(out).to.include('The backup is whole: each table is what was written.');
    expect(out).to.match(/^Sites +mill$/m);
    const bytes = readFileSync(join(folder, 'plain.tar.gz'));
    writeFileSync(join(folder, 'half.tar.gz'), bytes.subarray(0, bytes.length / 2));
    for (const [args, said] of [
      [['half.tar.gz'], 'The backup ends too early, in its compressed data: it was not copied to its end.'],
      [['sealed.age'], 'The backup is encrypted. Give the key that opens it: --key FILE.'],
      [['sealed.age', '--key', 'recipients.txt'], 'There is no key in this file'],
      [['backup.key'], 'This is not a backup of Pragmatica.'],
      [['nowhere.tar.gz'], 'There is no file “nowhere.tar.gz”.'],
    ] as const) {
      const result = await run(['backup', 'check', ...args]);
      expect(result).to.include({ code: 2, out: '' });
      expect(result.err).to.include(said);
    }
  });

  it('pass it through standard output and input', async () => {
    const line = `"$NODE" "$CLI" backup make - | "$NODE" "$CLI" backup check -`;
    const env = {
      ...process.env,
      ...{ NODE: process.execPath, CLI: BINARY, PRAGMATICA_SERVER: stage.server },
      ...{ PRAGMATICA_TOKEN: stage.token, XDG_CONFIG_HOME: folder },
    };
    const { stdout } = await promisify(execFile)('sh', ['-c', line], { env, cwd: folder });
    expect(stdout).to.include('The backup is whole');
  });

  it('ask before it is restored, and say what comes after', async () => {
    const asked = await there(['backup', 'restore', 'sealed.age', '--key', 'backup.key']);
    expect(asked).to.include({ code: 2 });
    expect(asked.err).to.match(/Nobody is there to ask: add --yes to restore the backup of .* UTC to http/);
    const full = await run(['backup', 'restore', 'sealed.age', '--key', 'backup.key', '--yes']);
    expect(full.code).to.equal(5);
    expect(full.err).to.include('There is something in this installation already');
    const out = done(await there(['backup', 'restore', 'sealed.age', '--key', 'backup.key', '--yes']));
    expect(out).to.match(
      /^Restored: one site, one member, \d+ rows, as of \d{4}-\d\d-\d\d \d\d:\d\d UTC\.$/m,
    );
    expect(out).to.include('Everybody signs in again, as they did then.');
    expect(await sql(other, 'select "key" from snippet')).to.deep.equal([{ key: 'chat' }]);
  });

  it('bring one site back, under another key where its own is taken', async () => {
    const taken = await run(['backup', 'bring-back', 'plain.tar.gz', 'mill']);
    expect(taken).to.include({ code: 5 });
    expect(taken.err).to.include('There is a site "mill" already, and it is not overwritten.');
    const out = done(await run(['backup', 'bring-back', 'plain.tar.gz', 'mill', '--as', 'mill-before']));
    expect(out).to.match(
      /^Brought back “Tide Mill \(\d{4}-\d\d-\d\d\)” as mill-before, as of .* UTC: one snippet, 0 releases\.$/m,
    );
    const none = await run(['backup', 'bring-back', 'plain.tar.gz', 'pier']);
    expect(none.err).to.include('The backup has no site "pier". Its sites: mill.');
  });

  it('plan them, have one made, and take it away', async () => {
    const plan = done(
      await run(['backup', 'plan', '--at', '30 2 * * 1', '--zone', 'Europe/Berlin', '--keep-days', '14']),
    );
    expect(plan).to.match(
      /^A backup is made every Monday at 02:30, time zone Europe\/Berlin\. Kept: the last of 14 days, 4 weeks and 6 months\.$/m,
    );
    expect(plan).to.include('They are not encrypted.');
    expect((await run(['backup', 'plan', '--at', 'at night'])).err).to.include('is not a schedule');
    expect(done(await run(['backup', 'now']))).to.match(/^Made pragmatica-\S+-1\.tar\.gz on \S+, \d+ kB\.$/m);
    expect(done(await run(['backup', 'list']))).to.match(
      /^1 +20\S+ \S+ +admin +\d+ kB +pragmatica-\S+ on \S+$/m,
    );
    expect(done(await run(['backup', 'show', '1']))).to.match(/^Sites +mill$/m);
    expect(done(await run(['backup', 'fetch', '1', 'away.tar.gz']))).to.match(
      /^Wrote away\.tar\.gz, \d+ kB/m,
    );
    expect(done(await run(['backup', 'check', 'away.tar.gz']))).to.include('The backup is whole');
    done(await run(['backup', 'bring-back', '1', 'mill', '--as', 'mill-once-more']));
    expect((await run(['backup', 'remove', '1'])).err).to.include('add --yes to remove the backup 1');
    expect(done(await run(['backup', 'remove', '1', '--yes']))).to.equal('Removed.\n');
    expect(done(await run(['backup', 'plan', '--off']))).to.include('Backups are not made by themselves.');
    expect(done(await run(['backup', 'list']))).to.include('There is no backup yet.');
  });
});
