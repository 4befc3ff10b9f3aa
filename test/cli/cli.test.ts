import { spawn } from 'node:child_process';
import { once } from 'node:events';
import {
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readlinkSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { BINARY, cliRunner } from '../support/cli.js';
import { ADMIN, startStage, type Stage } from '../support/stage.js';

describe('the command line', () => {
  let stage: Stage;
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-cli-'));
  before(async () => (stage = await startStage()));
  after(() => stage.close());

  const run = cliRunner(() => stage.server, folder);
  const json = async <T>(args: readonly string[]): Promise<T> =>
    JSON.parse((await run([...args, '--json'])).out) as T;

  it('says what to do before somebody has signed in, in one line', async () => {
    const { code, err, out } = await run(['sites']);
    expect([code, out]).to.deep.equal([3, '']);
    expect(err).to.equal('pragmatica: You are not signed in. Run "pragmatica sign-in".\n');
  });

  it('signs in and keeps the token where only the user can read it', async () => {
    expect((await run(['sign-in', '--stdin'], { input: 'wrong password\n' })).code).to.equal(3);
    const { code, out } = await run(['sign-in', '--stdin'], { input: `${ADMIN.password}\n` });
    expect(code).to.equal(0);
    expect(out).to.include(`Signed in to ${stage.server} as admin`);
    const file = join(folder, 'pragmatica/config.json');
    expect(statSync(file).mode & 0o077, 'no rights for others').to.equal(0);
    expect(readFileSync(file, 'utf8')).not.to.include(ADMIN.password);
    const next = await run(['sites'], { env: { PRAGMATICA_SERVER: '' } });
    expect([next.code, next.err], 'later commands go to the same service').to.deep.equal([0, '']);
  });

  it('lists the sites with what needs attention', async () => {
    const { out } = await run(['sites']);
    expect(out).to.match(/skerrywick\s+Skerrywick Ferries\s+release 1\s+10 snippets on\s+2 changes are/);
    expect(out, 'no colour where there is no terminal').not.to.include('\u001b');
    expect((await run(['sites'], { env: { FORCE_COLOR: '1' } })).out).to.include('\u001b');
    expect((await json<{ key: string }[]>(['sites']))[0]!.key).to.equal('skerrywick');
  });

  it('shows what a page gets and why the rest is left out', async () => {
    const { out, err } = await run(['plan', '/booking/confirmation']);
    expect(out.indexOf('Cookie question')).to.be.lessThan(out.indexOf('Visit counter'));
    expect(out).to.match(/Harbour chat {2}Excluded by \/booking\/confirmation of “Confirmation pages”\./);
    expect(err).to.include('see --diff');
  });

  it('takes a snippet from pasting to every page', async () => {
    writeFileSync(
      join(folder, 'chat.html'),
      '<script async src="https://pierlist.test/stops.js"></script>\n',
    );
    const added = await run([
      'snippet',
      'add',
      'Stop directory',
      '--placement',
      'body-end',
      '--code',
      'chat.html',
      '--pages',
      '/stops',
      '/contact',
    ]);
    expect(added.out).to.equal(
      'Added "stop-directory" to the draft: at the end of the body, on /stops and /contact.\n' +
        'The checks find nothing wrong with it or the rest of the site.\n',
    );
    expect((await run(['diff'])).out).to.include('“Stop directory” is new');
    const moved = await run(['snippet', 'move', 'stop-directory', '--first']);
    expect(moved.out).to.include('1. stop-directory/1');
    expect((await run(['snippet', 'off', 'accessibility-menu'])).code).to.equal(0);
    const published = await run(['publish', '-m', 'Stops']);
    expect(published.out).to.match(/^Published release 2 to staging and live: \d+ snippets on\.\n$/);
    const verified = await run(['verify', '/stops', '/contact', '/fares']);
    expect(verified.code).to.equal(0);
    expect(verified.out).to.match(/stop-directory\s+delivered 2/);
    expect((await run(['diff'])).out).to.equal('No difference between live (release 2) and the draft.\n');
  });

  it('finds the counter that the theme of the news holds as well', async () => {
    const { code, out } = await run(['verify']);
    expect(code).to.equal(1);
    expect(out).to.match(/visit-counter\s+delivered 17 {2}twice 4/);
    expect(out).to.include('/news  /news/new-vessel');
  });

  it('puts an older release back', async () => {
    expect((await run(['restore', '1'])).out).to.include('live serves release 1 again (before: release 2)');
    expect((await run(['releases'])).out).to.match(/1\s+20\d\d-.*live/);
    expect((await run(['restore', '99'])).code).to.equal(4);
  });

  it('edits, archives and removes, and asks before removing', async () => {
    const code = '<p>Cheap crossings</p>';
    const edited = await run(
      ['snippet', 'edit', 'summer-offer', '--code', '-', '--all-pages', '--note', 'n'],
      { input: code },
    );
    expect(edited.out).to.include('Changed "summer-offer"');
    const shown = await json<{ parts: { code: string }[]; note: string; pages: object }>([
      'snippet',
      'show',
      'summer-offer',
    ]);
    expect(shown).to.deep.include({ note: 'n', pages: { include: [], exclude: [] } });
    expect(shown.parts[0]!.code).to.equal(code);
    expect((await run(['snippet', 'archive', 'summer-offer'])).out).to.include('is archived');
    const asked = await run(['snippet', 'remove', 'summer-offer']);
    expect([asked.code, asked.err]).to.deep.equal([
      2,
      'pragmatica: Removing asks first. Use --yes if nobody is there to answer.\n',
    ]);
    expect((await run(['snippet', 'remove', 'summer-offer', '--yes'])).code).to.equal(0);
    expect((await run(['snippet', 'show', 'summer-offer'])).code).to.equal(4);
  });

  it('warns at once about code that could not be published', async () => {
    const { code, err } = await run(
      ['snippet', 'add', 'Broken', '--placement', 'head-end', '--code', '-', '--off'],
      { input: '<div>visible</div>' },
    );
    expect(code).to.equal(0);
    expect(err).to.include('You cannot publish it like this: <div> is visible content');
  });

  const MISTAKES: readonly {
    what: string;
    args: readonly string[];
    code: number;
    says: string;
    env?: Record<string, string>;
  }[] = [
    {
      what: 'a placement that is none',
      args: ['snippet', 'add', 'x', '--placement', 'body-ned', '--code', '-'],
      code: 2,
      says: 'Did you mean "body-end"?',
    },
    {
      what: 'a file that is not there',
      args: ['snippet', 'add', 'x', '--placement', 'body-end', '--code', 'no.html'],
      code: 2,
      says: 'There is no file "no.html".',
    },
    { what: 'no code', args: ['snippet', 'add', 'x'], code: 2, says: 'Give the code' },
    {
      what: 'a snippet that is not there',
      args: ['snippet', 'on', 'harbour-chta'],
      code: 4,
      says: 'Did you mean "harbour-chat"?',
    },
    {
      what: 'parts of different placements',
      args: ['snippet', 'move', 'harbour-chat', '--before', 'visit-counter'],
      code: 2,
      says: 'same placement',
    },
    {
      what: 'a page pattern that cannot work',
      args: ['snippet', 'edit', 'harbour-chat', '--pages', 'fares'],
      code: 2,
      says: '"/fares"',
    },
    { what: 'a command that is none', args: ['publsh'], code: 2, says: 'Did you mean publish?' },
    { what: 'a missing message', args: ['publish'], code: 2, says: "required option '-m, --message <text>'" },
    {
      what: 'a service that is not there',
      args: ['sites'],
      code: 6,
      says: 'that the service is running',
      env: { PRAGMATICA_SERVER: 'http://127.0.0.1:9' },
    },
    {
      what: 'an address that is none',
      args: ['sites'],
      code: 2,
      says: 'is not an address',
      env: { PRAGMATICA_SERVER: 'nowhere' },
    },
  ];
  for (const { what, args, code, says, env = {} } of MISTAKES) {
    it(`answers ${what} with a line that helps and status ${code}`, async () => {
      const result = await run(args, { env });
      expect(result.err)
        .to.include(says)
        .and.match(/^pragmatica: /);
      expect([result.code, result.out]).to.deep.equal([code, '']);
    });
  }

  it('explains itself', async () => {
    const { code, out } = await run(['snippet', 'add', '--help']);
    expect(code).to.equal(0);
    expect(out).to.include('Examples:').and.include('--placement');
    expect((await run(['--help'])).out).to.include('Exit codes:');
  });

  it('keeps a two-piece install together, from files', async () => {
    writeFileSync(join(folder, 'top.html'), '<script>top()</script>');
    writeFileSync(join(folder, 'bottom.html'), '<noscript><img src="/x.gif"></noscript>');
    const added = await run([
      'snippet',
      'add',
      'Two pieces',
      '--part',
      'head-start=top.html',
      '--part',
      'body-start=bottom.html',
      '--except',
      '/fares',
    ]);
    expect(added.out).to.include(
      'at the start of the head and at the start of the body, on all pages, but not on /fares',
    );
    const refused = await run(['snippet', 'edit', 'two-pieces', '--code', 'top.html']);
    expect([refused.code, refused.err]).to.deep.equal([
      2,
      'pragmatica: "two-pieces" has 2 parts. Give all of them with --part PLACEMENT=FILE.\n',
    ]);
    const edited = await run([
      'snippet',
      'edit',
      'two-pieces',
      '--part',
      'before:#menu=top.html',
      '--part',
      'body-end=bottom.html',
    ]);
    expect(edited.out).to.include('before the element #menu and at the end of the body');
    const moved = await run(['snippet', 'move', 'two-pieces/2', '--before', 'harbour-chat']);
    expect(moved.out).to.match(/\d\. two-pieces\/2\n {2}\d\. harbour-chat\/1/);
    expect((await run(['snippet', 'remove', 'two-pieces', '--yes'])).code).to.equal(0);
  });

  it('adds and shows a site, and asks which one is meant when there are several', async () => {
    const added = await run([
      'site',
      'add',
      'Tide Mill',
      '--live',
      'mill.example=http://origin.example:8080',
      '--staging',
      'test.mill.example=http://origin.example:8081',
      '--address',
      'mill.example=https://www.mill.example',
      '--transfer',
      'mill.example=compressed',
      '--time-zone',
      'Europe/Dublin',
    ]);
    expect(added.out).to.match(
      /live host +https:\/\/www\.mill\.example +from +http:\/\/origin\.example:8080, compressed\n/,
    );
    const shown = await json<{ hosts: object[]; timeZone: string }>(['site', 'show', 'tide-mill']);
    expect(shown.hosts).to.have.length(2);
    const plain = await run(['site', 'edit', 'tide-mill', '--transfer', 'mill.example=plain']);
    expect(plain.out).to.include('origin.example:8080, plain').and.include('test.mill.example');
    const address = ['--address', 'other.example=https://x.example'];
    expect((await run(['site', 'edit', 'tide-mill', ...address])).err).to.include(
      'has no host "other.example". It has: mill.example, test.mill.example.',
    );
    const edited = await run([
      'site',
      'edit',
      'tide-mill',
      '--name',
      'The Tide Mill',
      '--live',
      'mill.example=http://new.example',
    ]);
    expect(edited.out)
      .to.include('The Tide Mill (tide-mill)')
      .and.include('http://new.example')
      .and.not.include('test.mill.example');
    expect((await run(['site', 'edit', 'tide-mill'])).err).to.include('Say what to change');
    const which = await run(['snippet', 'list']);
    expect([which.code, which.err]).to.deep.equal([
      2,
      'pragmatica: Which site? Use --site with one of: skerrywick, tide-mill.\n',
    ]);
    expect((await run(['snippet', 'list', '--site', 'tide-mill'])).out).to.include('No snippets yet');
    expect((await run(['releases'], { env: { PRAGMATICA_SITE: 'tide-mill' } })).out).to.include(
      'Nothing published yet',
    );
    expect((await run(['export', '--site', 'tide-mill'])).err).to.include(
      'Nothing was published to live yet',
    );
    for (const [args, says] of [
      [['--live', 'mill.example'], 'HOST=ORIGIN'],
      [['--live', 'not a host=http://x.example'], 'host name'],
      [['--live', 'new.example=x.example'], 'whole address'],
      [
        ['--live', 'new.example=http://x.example', '--transfer', 'new.example=fast'],
        'auto, plain, compressed',
      ],
      [['--time-zone', 'Mars/Base'], 'IANA'],
      [['--live', 'mill.example=http://x.example'], 'belongs to the site'],
    ] as const) {
      const refused = await run(['site', 'add', 'Another', ...args]);
      expect([refused.code === 2 || refused.code === 5, refused.err], args.join(' ')).to.satisfy(
        ([isRefused, err]: [boolean, string]) => isRefused && err.includes(says),
      );
    }
  });

  it('prints JSON for every command that has a result', async () => {
    const site = ['--site', 'skerrywick'];
    for (const args of [
      ['sites'],
      ['site', 'show', 'skerrywick'],
      ['snippet', 'list', ...site],
      ['snippet', 'show', 'harbour-chat', ...site],
      ['plan', '/', ...site],
      ['diff', ...site],
      ['releases', ...site],
      ['export', ...site],
    ]) {
      const { out, code } = await run(
        [...args, '--json'].filter((word) => args[0] !== 'export' || word !== '--json'),
      );
      expect(code, args.join(' ')).to.equal(0);
      expect(() => JSON.parse(out) as unknown, args.join(' ')).not.to.throw();
    }
  });

  describe('insert, which needs no service', () => {
    const insertFolder = (...more: string[]) =>
      run(['insert', 'site', '--set', 'set.json', ...more], {
        env: { PRAGMATICA_SERVER: 'http://127.0.0.1:9' },
      });

    before(async () => {
      await run(['export', '--site', 'skerrywick', '--of', '1', '--out', 'set.json'], {
        env: { PRAGMATICA_TOKEN: stage.token },
      });
      mkdirSync(join(folder, 'site/booking'), { recursive: true });
      writeFileSync(join(folder, 'site/index.html'), '<!doctype html><title>Home</title><p>Hello');
      writeFileSync(
        join(folder, 'site/booking/index.html'),
        '<head></head><body><div id="booking-widget"></div></body>',
      );
      writeFileSync(join(folder, 'site/frames.htm'), '<frameset></frameset>');
      writeFileSync(join(folder, 'site/data.bin'), Buffer.from([0, 255, 60, 47]));
      symlinkSync('index.html', join(folder, 'site/start.html'));
    });

    it('writes new pages, copies the rest and keeps links', async () => {
      const { code, out } = await insertFolder('--out', 'new', '--clean-paths');
      expect(code).to.equal(0);
      const at = (file: string): string => join(folder, 'new', file);
      expect(readFileSync(at('index.html'), 'utf8'))
        .to.include('consent.js')
        .and.include('nudge.js');
      expect(readFileSync(at('booking/index.html'), 'utf8')).to.match(
        /<div id="booking-widget"><script src="[^"]+button\.js"/,
      );
      expect([...readFileSync(at('data.bin'))]).to.deep.equal([0, 255, 60, 47]);
      expect(lstatSync(at('start.html')).isSymbolicLink() && readlinkSync(at('start.html'))).to.equal(
        'index.html',
      );
      expect(out).to.include('Wrote 3 pages to new; 1 other file and 1 link went along unchanged.');
      expect(out).to.match(/newsletter-form\/1 was left out\n {2}The page does not have this element\./);
      expect(out).to.include('The page is a frameset');
    });

    it('overwrites nothing, and says which field of a set is wrong', async () => {
      expect((await insertFolder('--out', 'site')).err).to.include('must not be inside');
      mkdirSync(join(folder, 'full/x'), { recursive: true });
      expect((await insertFolder('--out', 'full')).err).to.include('is not empty');
      writeFileSync(
        join(folder, 'bad.json'),
        JSON.stringify({
          format: 'pragmatica-set/1',
          site: { key: 's', name: 'S', timeZone: 'UTC' },
          snippets: [{ key: 'a', name: 'A', parts: [{ placement: 'top', rank: 0, code: '' }] }],
        }),
      );
      const bad = await run(['insert', 'site', '--out', 'other', '--set', 'bad.json']);
      expect([bad.code, existsSync(join(folder, 'other'))]).to.deep.equal([2, false]);
      expect(bad.err).to.include('/snippets/0/parts/0/placement: Use head-start');
    });
  });

  it('ends quietly when whoever reads its output has seen enough', async () => {
    const child = spawn(process.execPath, [BINARY, 'explain', 'same-code']);
    child.stdout.destroy();
    let complaint = '';
    child.stderr.on('data', (chunk: Buffer) => (complaint += chunk.toString()));
    const [code] = (await once(child, 'close')) as [number];
    expect([code, complaint]).to.deep.equal([0, '']);
  });
});
