import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

describe('the options of a reach on the command line', () => {
  let stage: Stage;
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-cli-'));
  const plain = cliRunner(() => stage.server, folder);
  const run: RunCli = (args) => plain(args, { env: { PRAGMATICA_TOKEN: stage.token } });
  before(async () => (stage = await startStage()));
  after(() => stage.close());

  const reach = async (...args: string[]): Promise<unknown> => {
    const { out, err } = await run(['snippet', 'reach', 'newsletter-form', '--json', ...args]);
    expect(err).to.equal('');
    return (JSON.parse(out) as { limits: unknown }).limits;
  };

  it('change only what they name, and take away what they say', async () => {
    expect(await reach('--only-on', 'live', '--devices', 'phone')).to.deep.equal({
      environment: 'live',
      devices: ['phone'],
    });
    expect(await reach('--consent', 'adverts', 'visits', '--only-on', 'both')).to.deep.equal({
      devices: ['phone'],
      consent: ['adverts', 'visits'],
    });
    expect(await reach('--devices', 'all', '--consent', 'none')).to.deep.equal({});
    const hours = { weekly: { sun: [{ from: '10:00', to: '12:00' }] }, first: '2027-03-01' };
    expect(await reach('--hours', 'sun 10-12', '--first-day', '2027-03-01')).to.deep.equal({ hours });
    expect(
      await reach('--on-day', '2027-05-01=closed', '2027-05-02=09:00-10:00', '--first-day', 'none'),
    ).to.deep.equal({
      hours: {
        weekly: hours.weekly,
        exceptions: [
          { date: '2027-05-01', spans: [] },
          { date: '2027-05-02', spans: [{ from: '09:00', to: '10:00' }] },
        ],
      },
    });
    expect(await reach('--hours', 'always', '--after', '5', '--once-in', '7', '--on-leaving')).to.deep.equal({
      visitor: { afterSeconds: 5, everyDays: 7, onLeaving: true },
    });
    expect(await reach('--once-in', '0', '--visitors', 'first', '--min-width', '800')).to.deep.equal({
      visitor: { afterSeconds: 5, everyDays: 0, onLeaving: true, who: 'first', minWidth: 800 },
    });
    expect(await reach('--always', '--max-width', '600')).to.deep.equal({ visitor: { maxWidth: 600 } });
    expect(await reach('--always')).to.deep.equal({});
  });

  for (const [what, args, says] of [
    ['a number that is none', ['--after', 'soon'], '--after takes a number, not "soon".'],
    ['hours without a day', ['--hours', '9-17'], 'Say on which days: "mon-fri 9-17".'],
    [
      'a day without hours',
      ['--on-day', '2027-05-01'],
      'Write it as DAY=HOURS, like 2027-05-01=10:00-14:00; this was "2027-05-01".',
    ],
    [
      'a day that is none',
      ['--closed', '25.12.'],
      'limits/hours/closed/0: Write a day of the year like 12-25, month first.',
    ],
    ['a pattern that is none', ['--pages', '/('], 'is not a valid pattern'],
  ] as const)
    it(`answer ${what} with a line that helps`, async () => {
      const { code, err } = await run(['snippet', 'reach', 'newsletter-form', ...args]);
      expect(code).to.equal(2);
      expect(err.trim().split('\n')).to.have.length(1);
      expect(err).to.include(says);
    });

  it('are there when a snippet is added', async () => {
    const added = await plain(
      [
        'snippet',
        'add',
        'Night note',
        '--placement',
        'body-end',
        '--code',
        '-',
        '--hours',
        'daily 22-06',
        '--only-on',
        'live',
      ],
      { input: '<p>The last boat has gone.</p>', env: { PRAGMATICA_TOKEN: stage.token } },
    );
    expect(added.out).to.include(
      'at the end of the body, on all pages, only on live, every day 22:00–06:00.',
    );
  });

  it('cannot ask in files, and that is said', async () => {
    const { writeFileSync, mkdirSync, readFileSync } = await import('node:fs');
    const { data } = await stage.client.call('showDraft', { params: { site: 'skerrywick' } });
    writeFileSync(join(folder, 'set.json'), JSON.stringify(data.snapshot));
    mkdirSync(join(folder, 'pages'));
    writeFileSync(join(folder, 'pages/index.html'), '<!doctype html><title>t</title><body><p>x</p></body>');
    const { err } = await run([
      'insert',
      'pages',
      '--out',
      'out',
      '--set',
      'set.json',
      '--environment',
      'staging',
    ]);
    expect(err).to.include('“Booking pixel” runs with consent to Adverts. Files cannot ask');
    const page = readFileSync(join(folder, 'out/index.html'), 'utf8');
    expect(page)
      .to.include('testMode: true')
      .and.to.include('crate.js?id=CR-20-9')
      .and.not.to.include('glint');
  });
});
