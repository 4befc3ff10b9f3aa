import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

describe('reading, checking and fixing on the command line', () => {
  let stage: Stage;
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-cli-'));
  const run = cliRunner(() => stage.server, folder);
  before(async () => (stage = await startStage()));
  after(() => stage.close());
  const signedIn = (): { env: Record<string, string> } => ({ env: { PRAGMATICA_TOKEN: stage.token } });

  it('reads a piece of code without the service, from standard input', async () => {
    const { code, out } = await run(['read', '-', '--said', 'just before the closing body tag'], {
      input: '<script async src="https://cdn.parlanook.example/chat.js?room=r-5518"></script>',
      env: { PRAGMATICA_SERVER: 'http://127.0.0.1:9' },
    });
    expect(code).to.equal(0);
    expect(out).to.include('Looks like a chat window');
    expect(out).to.include('r-5518 at parlanook.example');
    expect(out).to.include('at the end of the body: The provider says so.');
  });

  it('explains every check, and suggests a near one', async () => {
    const { out } = await run(['explain']);
    expect(out).to.include('same-code').and.include('used-before-defined');
    expect((await run(['explain', 'same-code'])).out)
      .to.include('Wrong')
      .and.include('Right');
    const wrong = await run(['explain', 'same-cod']);
    expect(wrong.code).to.equal(4);
    expect(wrong.err).to.include('Did you mean "same-code"?');
  });

  it('finds the demo’s draft in order', async () => {
    const { code, out } = await run(['check'], signedIn());
    expect(out).to.include('in order');
    expect(code).to.equal(0);
  });

  it('shows what is wrong, where, why and what to do, and fixes it after a preview', async () => {
    writeFileSync(join(folder, 'visits.html'), 'window.visits = 1;');
    await run(['snippet', 'add', 'Visits', '--placement', 'body-end', '--code', 'visits.html'], signedIn());
    const found = await run(['check'], signedIn());
    expect(found.code).to.equal(1);
    expect(found.out).to.include('1 error').and.include('“Visits” has no <script> tags');
    const id = /pragmatica fix (\S+)/.exec(found.out)![1]!;
    const preview = await run(['fix', id, '--preview'], signedIn());
    expect(preview.out).to.include('Would fix 1 finding');
    expect((await run(['check'], signedIn())).code).to.equal(1);
    const fixed = await run(['fix', '--all'], signedIn());
    expect(fixed.out).to.include('Fixed 1 finding').and.include('Nothing else is found.');
    expect((await run(['check'], signedIn())).code).to.equal(0);
    expect((await run(['fix', '--all'], signedIn())).out).to.include('Nothing here can be fixed');
  });

  it('asks what to fix, and says when a finding is gone', async () => {
    expect((await run(['fix'], signedIn())).code).to.equal(2);
    const gone = await run(['fix', 'same-code-0000000000'], signedIn());
    expect(gone.code).to.equal(4);
    expect(gone.err).to.include('There is no finding');
  });

  it('checks a set from a file without the service, from the severity on that is asked for', async () => {
    const { out } = await run(['export', '--of', 'draft'], signedIn());
    const set = JSON.parse(out) as { snippets: { key: string; parts: { code: string }[] }[] };
    set.snippets[0]!.parts[0]!.code = '<script async src="http://sharebuoy.example/share.js"></script>';
    writeFileSync(join(folder, 'set.json'), JSON.stringify(set));
    const away = { env: { PRAGMATICA_SERVER: 'http://127.0.0.1:9' } };
    const lenient = await run(['check', '--set', 'set.json'], away);
    expect(lenient.out).to.include('without https');
    expect(lenient.code).to.equal(0);
    expect((await run(['check', '--set', 'set.json', '--fail-on', 'warning'], away)).code).to.equal(1);
    const json = JSON.parse((await run(['check', '--set', 'set.json', '--json'], away)).out) as {
      items: { check: string }[];
    };
    expect(json.items.map(({ check }) => check)).to.include('insecure-address');
  });

  it('writes times as the terminal’s locale does, and as the service’s where it says none', async () => {
    const { out } = await run(['export', '--of', 'draft'], signedIn());
    const set = JSON.parse(out) as { site: { timeZone: string }; snippets: { limits?: unknown }[] };
    set.snippets[0]!.limits = { hours: { weekly: { fri: [{ from: '09:00', to: '17:00' }] } } };
    writeFileSync(join(folder, 'hours.json'), JSON.stringify(set));
    const opens = async (env: Record<string, string>): Promise<string | undefined> => {
      const args = ['check', '--set', 'hours.json', '--at', '2027-03-01T10:00'];
      return /It opens ([^(]+) \(/.exec((await run(args, { env })).out)?.[1];
    };
    expect(await opens({})).to.equal('Friday 09:00');
    expect(await opens({ LANG: 'C.UTF-8' })).to.equal('Friday 09:00');
    expect(await opens({ LANG: 'de_AT.UTF-8' })).to.equal('Friday 09:00');
    expect(await opens({ LANG: 'de_AT.UTF-8', LC_ALL: 'en_US.UTF-8' })).to.match(/^Friday 9:00\sAM$/);
  });
});
