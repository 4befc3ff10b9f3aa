import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { OFFICE_HOURS } from '@pragmatica/demo';
import { expect } from 'chai';
import { BINARY } from '../support/cli.js';
import { differenceOf, examplesOf } from '../support/paper-examples.js';
import { send } from '../support/http.js';
import { startStage, type Stage } from '../support/stage.js';
import { linking, ownSite, survey } from '../support/surveys.js';

/** Papers whose examples are run from top to bottom, each on a demo of its own. */
const PAPERS = [
  'README.md',
  'docs/tour.md',
  'docs/recipes.md',
  'docs/content-policy.md',
  'docs/in-and-out.md',
  'docs/without-the-gateway.md',
];

/** What is not run, and why. */
const NOT_RUN: readonly (readonly [start: string, because: string])[] = [
  ['npm start', 'the stage stands in for it'],
  ['npx pragmatica sign-in', 'asks for the password; a token stands in for it'],
  ['export PRAGMATICA_SITE=skerrywick', 'is in the environment'],
  ['npx pragmatica insert public --out public-with-snippets --watch', 'goes on until it is stopped'],
  ['git -C site diff', 'the folder is no repository'],
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
          const stands = (await PREPARED[command]?.(stage, folder)) ?? {};
          const said = withAll(await typed(replaced(command, stands), stage), stands);
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

/** What a run has in the place of what a paper has: addresses that are not there. */
type Stands = Readonly<Record<string, string>>;

function replaced(text: string, stands: Stands): string {
  return Object.entries(stands).reduce((done, [written, real]) => done.replaceAll(written, real), text);
}

/** What was said, as the paper has it. */
function withAll<Said extends { readonly out: string; readonly all: string }>(
  said: Said,
  stands: Stands,
): Said {
  const back = Object.fromEntries(Object.entries(stands).map(([written, real]) => [real, written]));
  return { ...said, out: replaced(said.out, back), all: replaced(said.all, back) };
}

/** What has happened before an example, where the demo alone does not show it. */
const PREPARED: Readonly<Record<string, (stage: Stage, folder: string) => Promise<Stands | undefined>>> = {
  async 'npx pragmatica order'({ client }) {
    const add = async (name: string, code: string) =>
      client.call('createSnippet', {
        params: { site: 'skerrywick' },
        body: { name, parts: [{ placement: 'head-end', code }] },
      });
    await add('Slip notice', "<script>slipNotice.show('Works on the slip');</script>");
    await add('Slip notice library', '<script>window.slipNotice = { show: console.log };</script>');
    return undefined;
  },
  async 'npx pragmatica policy try'(stage) {
    await survey(stage, 'skerrywick');
    return undefined;
  },
  'npx pragmatica pull site'(_stage, folder) {
    rmSync(join(folder, 'site'), { recursive: true });
    return Promise.resolve(undefined);
  },
  /** Two visitors' browsers have found something that the policy would block. */
  async 'npx pragmatica policy'({ gatewayPort, providerPort }) {
    const report = {
      'document-uri': 'http://skerrywick.localhost/fares',
      'effective-directive': 'img-src',
      'blocked-uri': `http://tallymast.localhost:${providerPort}/tell?id=7`,
      disposition: 'report',
    };
    for (const body of [report, report].map((one) => JSON.stringify({ 'csp-report': one })))
      await send({
        port: gatewayPort,
        host: 'code.example.com',
        path: '/policy-reports',
        method: 'POST',
        body,
      });
    await setTimeout(REPORTS_KEPT_MS);
    return undefined;
  },
  /** Somebody has edited the files. */
  'npx pragmatica push site --dry-run'(_stage, folder) {
    const edit = (name: string, change: (text: string) => string) =>
      writeFileSync(join(folder, 'site', name), change(readFileSync(join(folder, 'site', name), 'utf8')));
    edit('snippets/tag-container.html', (text) => text.replace('height="0"', 'height="1"'));
    edit('site.yaml', (text) =>
      text
        .replace('    - accessibility-menu\n', '')
        .replace('    - harbour-chat\n', '    - accessibility-menu\n    - harbour-chat\n'),
    );
    writeFileSync(join(folder, 'site/snippets/tide-table.html'), TIDE_TABLE);
    return Promise.resolve(undefined);
  },
  async 'npx pragmatica site add www.example.com --can site-box'() {
    const counter = '<script src="https://tallymast.example/count.js"></script>';
    const home = `<title>Tide Mill</title>${counter}${linking(...MILL_PAGES)}`;
    const mill = await ownSite({ '/': home, ...Object.fromEntries(MILL_PAGES.map((path) => [path, home])) });
    return {
      'https://www.example.com': `http://mill.localhost:${mill.port}`,
      'www.example.com': `mill.localhost:${mill.port}`,
    };
  },
};

/** Reports of browsers are written together, some times a second. */
const REPORTS_KEPT_MS = 3_000;

const MILL_PAGES = Array.from({ length: 14 }, (_, index) => `/page-${index}`);

const TIDE_TABLE = `---
name: Tide table
pages:
  - /timetables/*
  - /nowhere
parts:
  - at: body-end
---
<p id="tides">High water at noon</p>
`;
