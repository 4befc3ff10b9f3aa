import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import pg from 'pg';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

/** Moves the cursor, sets the title, hides what follows, and looks like another row. */
const EVIL = 'Chat\u001b[2J\u001b]0;owned\u0007\u009b31m\rFAKE\nforged-row  on  everywhere';
// eslint-disable-next-line no-control-regex -- just these must not come out
const CONTROLS = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f]/;

describe('what the command line shows of what others wrote', function () {
  this.timeout(120_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;
  before(async () => {
    stage = await startStage();
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-terminal-'));
    const plain = cliRunner(() => stage.server, folder);
    run = (args) => plain(args, { env: { PRAGMATICA_TOKEN: stage.token, PRAGMATICA_SITE: 'skerrywick' } });
    // As an older version let it in; the API refuses such names by now.
    const client = new pg.Client({ connectionString: stage.databaseUrl });
    await client.connect();
    await client.query(
      'update snippet set name = $1::text, purpose = $1::text, note = $1::text where key = $2',
      [EVIL, 'harbour-chat'],
    );
    await client.query(
      'update part set code = code || $1 where snippet_id = (select id from snippet where key = $2)',
      [`<!-- ${EVIL} -->`, 'harbour-chat'],
    );
    // Drafts are known by what the trail says of them.
    await client.query(
      `insert into audit (site_id, action, message, by, at) select id, 'snippet.edit', 'x', 'x', now() from site`,
    );
    await client.end();
  });
  after(async () => {
    await stage.close();
    rmSync(folder, { recursive: true });
  });

  // What names it in any case; the others say of the demo’s set what there is to say.
  const isNamed = new Set(['snippet', 'diff']);
  for (const args of [
    ['snippet', 'list'],
    ['snippet', 'show', 'harbour-chat'],
    ['diff'],
    ['plan', '/'],
    ['check'],
    ['order'],
    ['snippet', 'show', 'harbour-chat', '--json'],
    ['check', '--format', 'junit'],
    ['check', '--format', 'sarif'],
  ])
    it(`holds no control character: ${args.join(' ')}`, async () => {
      const { out, err } = await run(args);
      expect(out).to.match(isNamed.has(args[0]!) ? /Chat\\/ : /./);
      expect(out).not.to.match(CONTROLS);
      expect(err).not.to.match(CONTROLS);
    });

  it('lets no name look like a row of its own', async () => {
    const { out } = await run(['snippet', 'list']);
    expect(out.split('\n').filter((line) => line.startsWith('forged-row'))).to.deep.equal([]);
    expect(out).to.include('\\x1b[2J');
  });

  it('breaks a word that is wider than its column, and cuts off none', async () => {
    const word = 'Hafenfähranmeldeformularzähler'.repeat(3);
    const code = join(folder, 'unreadable.html');
    writeFileSync(code, '<script>this is no script</script>');
    const added = await run(['snippet', 'add', word, '--placement', 'body-end', '--code', code]);
    expect(added.code, added.err).to.equal(0);
    const { out } = await run(['sites']);
    expect(out.replace(/\s/g, '')).to.include(word);
  });

  it('shortens an example that is wider than any terminal', async () => {
    const { out } = await run(['explain', 'unread-code']);
    expect(Math.max(...out.split('\n').map((line) => line.length))).to.be.below(260);
    expect(out).to.match(/<script>x = \[{100,}…\n/);
  });

  it('checks a set from a file by the clock, or as of a time that is given', async () => {
    const set = {
      format: 'pragmatica-set/1',
      site: { key: 'mill', name: 'Mill', timeZone: 'UTC' },
      snippets: [
        {
          ...{ key: 'chat', name: 'Chat', purpose: '', provider: '', note: '', state: 'on' },
          pages: { include: [], exclude: [] },
          limits: { hours: { last: '2020-12-31' } },
          parts: [
            {
              placement: 'body-end',
              rank: 0,
              code: '<script async src="https://talk.example/t.js"></script>',
            },
          ],
        },
      ],
    };
    const file = join(folder, 'set.json');
    writeFileSync(file, JSON.stringify(set));
    const found = async (...more: string[]): Promise<string[]> => {
      const { out } = await run(['check', '--set', file, '--json', ...more]);
      return (JSON.parse(out) as { items: { check: string }[] }).items.map(({ check }) => check);
    };
    expect(await found()).to.include('reach-empty');
    expect(await found('--at', '2020-06-01T10:00')).not.to.include('reach-empty');
    const refused = await run(['check', '--set', file, '--at', '2020-13-01']);
    expect([refused.code, refused.err]).to.deep.equal([
      2,
      'pragmatica: "2020-13-01" is not a time. Write it like 2027-03-31T10:00.\n',
    ]);
  });
});
