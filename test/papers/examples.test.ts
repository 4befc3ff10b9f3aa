import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { OFFICE_HOURS } from '@pragmatica/demo';
import { expect } from 'chai';
import { BINARY } from '../support/cli.js';
import { differenceOf, examplesOf } from '../support/paper-examples.js';
import { startStage, type Stage } from '../support/stage.js';

/** Papers whose examples are run from top to bottom, each on a demo of its own. */
const PAPERS = ['README.md', 'docs/tour.md', 'docs/recipes.md'];

/** What is not run, and why. */
const NOT_RUN: readonly (readonly [start: string, because: string])[] = [
  ['npm start', 'the stage stands in for it'],
  ['npx pragmatica sign-in', 'asks for the password; a token stands in for it'],
  ['export PRAGMATICA_SITE=skerrywick', 'is in the environment'],
  ['npx pragmatica insert public --out public-with-snippets --watch', 'goes on until it is stopped'],
];

/** Files that the examples read. */
const FILES: Readonly<Record<string, string>> = {
  'stops.html': '<script async src="http://pierlist.localhost/stops.js" data-list="quays"></script>\n',
  'chat.html': '<script async src="https://cdn.parlanook.example/chat.js?room=r-5518"></script>\n',
  'public/index.html':
    '<!doctype html><html lang="en"><head><title>Hallow</title></head><body><h1>Hallow</h1></body></html>\n',
};

describe('the examples in the papers', function () {
  this.timeout(300_000);
  let folder: string;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-examples-'));
    mkdirSync(join(folder, 'public'));
    for (const [name, text] of Object.entries(FILES)) writeFileSync(join(folder, name), text);
  });
  afterEach(() => rmSync(folder, { recursive: true }));

  it('are compared line by line: what varies is equal, what is left out is marked, and nothing else is', () => {
    const written = ['port localhost:4700, 1 May 2027', '…', 'end of a line th…'];
    const said = 'port localhost:39999, Monday 30 November 2026, 10:00\nmore\nend of a line that goes on\n';
    expect(differenceOf(written, said)).to.equal(undefined);
    expect(differenceOf(written.slice(0, 1), said)).to.equal('“more” is said as well');
    expect(differenceOf(['other'], said)).to.match(/^“other” is not said; there is “port/);
    expect(differenceOf([...written, 'x'], said)).to.equal('“x” is not said; there is “nothing more”');
    const page = '```\n$ one # two\nsaid\n\n$ three\n```\n```bash\n$ four\n```\n```\nno prompt\n```\n';
    expect(examplesOf(page)).to.deep.equal([
      { command: 'one # two', output: ['said'], line: 2 },
      { command: 'three', output: [], line: 5 },
    ]);
  });

  for (const paper of PAPERS)
    it(`say what stands in ${paper}`, async () => {
      const stage = await startStage({ isWhole: true, hasWorker: true, chatHours: OFFICE_HOURS });
      const wrong: string[] = [];
      try {
        for (const { command, output, line } of examplesOf(readFileSync(paper, 'utf8'))) {
          if (NOT_RUN.some(([start]) => command.startsWith(start))) continue;
          await PREPARED[command]?.(stage);
          const said = await typed(command, stage);
          // Hints and progress (standard error) may be left out.
          const difference =
            output.length > 0 && differenceOf(output, said.out) !== undefined
              ? differenceOf(output, said.all)
              : undefined;
          if (difference !== undefined || said.code > 1)
            wrong.push(`line ${line}: ${command}: ${difference ?? `ends with ${said.code}`}\n${said.all}`);
        }
      } finally {
        await stage.close();
      }
      expect(wrong.join('\n')).to.equal('');
    });

  /** As somebody types it, in a folder with the files. */
  function typed(command: string, stage: Stage): Promise<{ out: string; all: string; code: number }> {
    const env = {
      PATH: process.env['PATH'],
      HOME: folder,
      COLUMNS: '120',
      NO_COLOR: '1',
      PRAGMATICA_SERVER: stage.server,
      PRAGMATICA_TOKEN: stage.token,
      PRAGMATICA_SITE: 'skerrywick',
    };
    const script = `npx() { shift; '${process.execPath}' '${BINARY}' "$@"; }; ${command}`;
    return new Promise((resolve) => {
      let all = '';
      const child = execFile('sh', ['-c', script], { env, cwd: folder }, (error, out) =>
        resolve({ out, all, code: error ? Number(error.code ?? 1) : 0 }),
      );
      for (const stream of [child.stdout!, child.stderr!]) stream.on('data', (text: string) => (all += text));
    });
  }
});

/** What has happened before an example, where the demo alone does not show it. */
const PREPARED: Readonly<Record<string, (stage: Stage) => Promise<void>>> = {
  async 'npx pragmatica order'({ client }) {
    const add = async (name: string, code: string) =>
      client.call('createSnippet', {
        params: { site: 'skerrywick' },
        body: { name, parts: [{ placement: 'head-end', code }] },
      });
    await add('Slip notice', "<script>slipNotice.show('Works on the slip');</script>");
    await add('Slip notice library', '<script>window.slipNotice = { show: console.log };</script>');
  },
};
