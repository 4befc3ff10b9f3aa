import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

describe('who gets it, on the command line', function () {
  let stage: Stage;
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-cli-'));
  const plain = cliRunner(() => stage.server, folder);
  const run: RunCli = (args) =>
    plain(args, { env: { PRAGMATICA_SITE: 'skerrywick', PRAGMATICA_TOKEN: stage.token } });
  before(async () => (stage = await startStage({ isWhole: true })));
  after(() => stage.close());

  it('changes when a snippet runs and shows its week', async () => {
    const set = await run([
      'snippet',
      'reach',
      'harbour-chat',
      '--hours',
      'mon-fri 9-17:30, sat 22-02',
      '--closed',
      '12-25',
      '--devices',
      'phone',
      'tablet',
      '--week',
      '2027-03-06',
    ]);
    expect(set.out).to.include(
      'Harbour chat now runs on all pages, but not on “Confirmation pages”, only on phones and tablets, Mon–Fri 09:00–17:30, Sat 22:00–02:00, closed on 25 December. (draft)',
    );
    expect(set.out).to.match(/Sat 2027-03-06 ·{44}████ {2}22:00–24:00/);
    expect(set.out).to.match(/Sun 2027-03-07 ████·{44} {2}00:00–02:00/);
    const cleared = await run(['snippet', 'reach', 'harbour-chat', '--always']);
    expect(cleared.out).to.include('now runs on all pages, but not on “Confirmation pages”.');
    const wrong = await run(['snippet', 'reach', 'harbour-chat', '--hours', 'mon 09:00-25:00']);
    expect([wrong.code, wrong.err]).to.deep.equal([
      2,
      'pragmatica: limits/hours/weekly/mon/0/to: “25:00” is not a time. Write it like 09:00 or 17:30.\n',
    ]);
  });

  it('says why the chat does not show, at any time and for anybody', async () => {
    await run(['snippet', 'reach', 'harbour-chat', '--hours', 'mon-fri 09:00-17:30']);
    const ask = (...more: string[]) => run(['plan', '/', '--draft', ...more]);
    expect((await ask('--at', '2027-03-04T20:00')).out).to.match(
      /Harbour chat {2}Closed: opens tomorrow 09:00\./,
    );
    expect((await ask('--at', '2027-03-04T12:00')).out).to.match(/at the end of the body\n {4}Harbour chat/);
    const pixel = await run(['plan', '/booking', '--consent', 'all']);
    expect(pixel.out).to.match(/at the end of the head\n.*\n {4}Booking pixel/);
    expect((await run(['plan', '/booking'])).out).to.include('Booking pixel  Waits for consent: Adverts.');
    expect((await run(['plan', '/', '--environment', 'staging', '--code'])).out).to.include(
      'crate.js?id=CR-20-9',
    );
    const diff = await run(['plan', '/', '--diff', '--at', '2027-03-04T20:00']);
    expect(diff.out).to.match(/• “Accessibility menu” is added\.\n {2}• “Harbour chat” is removed\./);
    const unknown = await run(['plan', '/', '--consent', 'cake']);
    expect([unknown.code, unknown.err]).to.deep.equal([
      2,
      'pragmatica: consent: Name one of the site’s purposes.\n',
    ]);
  });

  it('defines page groups and purposes of consent', async () => {
    const group = await run(['site', 'group', 'islands', '/islands', '/islands/*', '--name', 'The islands']);
    expect(group.out).to.match(/@islands has 4 of 21 known pages: \/islands/);
    expect((await run(['site', 'groups'])).out).to.match(
      /@islands\s+The islands\s+\/islands {2}\/islands\/\*/,
    );
    expect((await run(['pages', '@islands', '--except', '/islands'])).out.trim().split('\n')).to.have.length(
      3,
    );
    expect((await run(['site', 'group', 'islands'])).out).to.include('Removed the page group @islands');
    expect((await run(['site', 'consent'])).out).to.match(/The cookie biscuitkeel .*JSON, at \$\.purposes/);
  });

  it('gives fields values on several sites, with a result each', async () => {
    const { out, code } = await run([
      'field',
      'set',
      'counter_account=TM-2000',
      '--site',
      'tern-hostel,port-hallow,nowhere',
    ]);
    expect(out)
      .to.match(/tern-hostel\s+done/)
      .and.match(/nowhere\s+not done\s+There is no site "nowhere"/);
    expect(code).to.equal(1);
    const list = await run(['field', 'list', '--all-sites']);
    expect(list.out).to.match(/quay-kitchen\s+@\{counter_account\}\s+id\s+TM-0000 \(example\)/);
    expect(list.out).to.match(/skerrywick\s+@\{container\}\s+id\s+CR-20-3\s+CR-20-9/);
    const defined = await run(['field', 'define', 'greeting', '--label', 'Greeting', '--value', 'Ask “us”']);
    expect(defined.out).to.include('Write @{greeting} in the code');
  });

  it('copies a snippet with its fields, and checks and publishes several sites', async () => {
    const copied = await run(['snippet', 'copy', 'tag-container', '--to-all']);
    expect(copied.out).to.match(
      /port-hallow\s+done\s+“Tag container” is in the draft\. Its fields came along without/,
    );
    const twice = await run(['snippet', 'copy', 'tag-container', '--to', 'port-hallow']);
    expect([twice.code, twice.out]).to.deep.equal([
      1,
      'It already has a snippet "tag-container", which stays as it is.\n',
    ]);
    await run(['field', 'set', 'container=CR-31-1', '--site', 'port-hallow,skerrywick-freight']);
    const published = await run(['publish', '-m', 'The container', '--site', 'port-hallow,tern-hostel']);
    expect(published.out).to.match(/— port-hallow —\nPublished release 2 to staging and live/);
    expect(published.err).to.match(/tern-hostel: .*Nothing was published/);
    expect(published.code).not.to.equal(0);
    const again = await run(['publish', '-m', 'Again', '--site', 'port-hallow,skerrywick-freight']);
    expect(again.out).to.match(/— skerrywick-freight —\nPublished release 2/);
    expect([again.code, again.err]).to.satisfy(
      ([code, err]: [number, string]) => code === 0 && err.includes('already serve'),
    );
    const { out } = await run(['sites']);
    expect(out.indexOf('quay-kitchen'), 'what needs most comes first').to.be.lessThan(
      out.indexOf('port-hallow'),
    );
  });
});
