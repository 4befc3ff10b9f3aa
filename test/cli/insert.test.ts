import { spawn } from 'node:child_process';
import { once } from 'node:events';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  unlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, brotliDecompressSync, gunzipSync, gzipSync } from 'node:zlib';
import { expect } from 'chai';
import { insert, planPage, type Snapshot } from '@pragmatica/core';
import { BINARY, cliRunner, type RunCli } from '../support/cli.js';
import { eventually } from '../support/http.js';
import { load, part, set, snippet } from '../support/sets.js';
import { startStage } from '../support/stage.js';

const PAGE = '<!DOCTYPE html><html><head><title>t</title></head><body><p>x</p></body></html>';
const setWith = (code: string): Snapshot =>
  set(
    snippet('chat', { parts: [part('body-end', 0, code)] }),
    snippet('fares', {
      pages: { include: ['/fares.html'], exclude: [] },
      parts: [part('head-end', 0, '<script>fares()</script>')],
    }),
  );

interface Report {
  readonly pages: readonly {
    readonly file: string;
    readonly outcomes: readonly { readonly inserted: boolean }[];
  }[];
  readonly written: readonly string[];
  readonly removed: readonly string[];
  readonly copied: number;
}

describe('a folder that gets its snippets', function () {
  this.timeout(60_000);
  let folder: string;
  let run: RunCli;
  let snapshot: Snapshot;

  const at = (...steps: string[]): string => join(folder, ...steps);
  const give = (next: Snapshot): void => {
    snapshot = next;
    writeFileSync(at('set.json'), JSON.stringify(next));
  };
  const write = async (...more: string[]): Promise<Report> => {
    const { code, out, err } = await run([
      'insert',
      'site',
      '--out',
      'new',
      '--set',
      'set.json',
      '--json',
      ...more,
    ]);
    expect(code, err).to.equal(0);
    return JSON.parse(out) as Report;
  };
  const planned = (path: string): string => {
    const { parts } = planPage(snapshot, load(path));
    return Buffer.from(insert(PAGE, parts).page).toString();
  };
  const read = (...steps: string[]): string => readFileSync(at(...steps), 'utf8');

  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-insert-'));
    run = cliRunner(() => 'http://127.0.0.1:9', folder);
    mkdirSync(at('site', 'news'), { recursive: true });
    for (const file of ['index.html', 'fares.html', 'news/seals.html']) writeFileSync(at('site', file), PAGE);
    writeFileSync(at('site', 'style.css'), 'p {}');
    writeFileSync(at('site', 'fares.html.gz'), gzipSync(PAGE));
    writeFileSync(at('site', 'fares.html.br'), brotliCompressSync(PAGE));
    writeFileSync(at('site', 'style.css.gz'), gzipSync('p {}'));
    symlinkSync('index.html', at('site', 'start.html'));
    give(setWith('<script>chat()</script>'));
  });
  afterEach(() => rmSync(folder, { recursive: true }));

  it('holds pages as insertion makes them, and packed ones anew', async () => {
    const { written } = await write();
    expect(written).to.have.length(7);
    expect(read('new', 'fares.html')).to.equal(planned('/fares.html'));
    expect(read('new', 'news/seals.html')).to.equal(planned('/news/seals.html'));
    expect(gunzipSync(readFileSync(at('new', 'fares.html.gz'))).toString()).to.equal(planned('/fares.html'));
    expect(brotliDecompressSync(readFileSync(at('new', 'fares.html.br'))).toString()).to.equal(
      planned('/fares.html'),
    );
    expect(gunzipSync(readFileSync(at('new', 'style.css.gz'))).toString()).to.equal('p {}');
  });

  it('is written again only where something has changed', async () => {
    await write();
    const before = statSync(at('new', 'index.html')).mtimeMs;
    expect(await write()).to.deep.include({ written: [], removed: [] });
    expect(statSync(at('new', 'index.html')).mtimeMs).to.equal(before);
    // Of a page that has changed, what is packed of it has changed, too.
    utimesSync(at('site', 'fares.html'), new Date(), new Date(Date.now() + 5_000));
    expect((await write()).written).to.have.members(['fares.html', 'fares.html.gz', 'fares.html.br']);
    unlinkSync(at('new', 'style.css'));
    expect((await write()).written).to.deep.equal(['style.css']);
    // A snippet of one page touches no other.
    give({
      ...snapshot,
      snippets: snapshot.snippets.map((one) => (one.key === 'fares' ? { ...one, state: 'off' } : one)),
    });
    expect((await write()).written).to.have.members(['fares.html', 'fares.html.gz', 'fares.html.br']);
    expect(read('new', 'fares.html')).to.equal(planned('/fares.html')).and.not.include('fares()');
    const { out } = await run(['insert', 'site', '--out', 'new', '--set', 'set.json']);
    expect(out).to.match(
      /^Wrote 0 pages to new, 3 were there already; 2 other files and 1 link went along unchanged\.\n/,
    );
  });

  it('loses what its source has lost, and nothing that somebody else put there', async () => {
    await write();
    writeFileSync(at('new', 'robots.txt'), 'mine');
    rmSync(at('site', 'news'), { recursive: true });
    unlinkSync(at('site', 'style.css.gz'));
    expect((await write()).removed).to.have.members(['news/seals.html', 'style.css.gz']);
    expect([existsSync(at('new', 'news')), existsSync(at('new', 'robots.txt'))]).to.deep.equal([false, true]);
  });

  it('is not emptied elsewhere by a manifest that was tampered with', async () => {
    await write();
    const file = at('new', '.pragmatica-insert.json');
    const manifest = JSON.parse(readFileSync(file, 'utf8')) as { files: Record<string, unknown> };
    manifest.files['../set.json'] = { size: 1, mtimeMs: 1, kind: 'copy' };
    writeFileSync(file, JSON.stringify(manifest));
    await write();
    expect(existsSync(at('set.json'))).to.equal(true);
  });

  it('says what would change without changing it', async () => {
    const first = await run(['insert', 'site', '--out', 'new', '--set', 'set.json', '--dry-run']);
    expect(first.out)
      .to.match(/^7 files would be written, 0 removed\.\n/)
      .and.include('fares.html  2 parts in it');
    expect(existsSync(at('new'))).to.equal(false);
    await write();
    give(setWith('<script>other()</script>'));
    const { written } = await write('--dry-run');
    expect(written).to.have.length(5);
    expect(read('new', 'index.html')).to.include('chat()');
  });

  it('says it line by line, beside what is there', async () => {
    const first = await run(['insert', 'site', '--out', 'new', '--set', 'set.json', '--diff']);
    expect(first.out).to.match(/^fares\.html\n {2}@@ \d+ @@\n/m);
    expect(first.out).to.match(/^ {2}\+.*chat\(\)/m);
    expect(existsSync(at('new'))).to.equal(false);
    await write();
    give(setWith('<script>other()</script>'));
    const { out } = await run(['insert', 'site', '--out', 'new', '--set', 'set.json', '--diff']);
    expect(out)
      .to.match(/^ {2}-.*chat\(\)/m)
      .and.match(/^ {2}\+.*other\(\)/m);
    expect(read('new', 'index.html')).to.include('chat()');
  });

  it('is the same however many cores write it', async () => {
    const names = Array.from({ length: 900 }, (_, i) => `page-${i}.html`);
    for (const name of names) writeFileSync(at('site', name), PAGE.replace('x', name));
    const { pages, written } = await write();
    expect(written).to.include.members(names);
    for (const name of names)
      expect(read('new', name)).to.equal(planned(`/${name}`).replace('<p>x', `<p>${name}`));
    const found = new Map(pages.map((page) => [page.file, page.outcomes]));
    for (const name of names) expect(found.get(name)!.map(({ inserted }) => inserted)).to.deep.equal([true]);
    expect((await write()).written).to.deep.equal([]);
  });

  it('is written from what the service serves, and again while it is watched', async () => {
    const stage = await startStage();
    const env = {
      ...process.env,
      ...{ PRAGMATICA_SERVER: stage.server, PRAGMATICA_TOKEN: stage.token, PRAGMATICA_SITE: 'skerrywick' },
    };
    const child = spawn(process.execPath, [BINARY, 'insert', 'site', '--out', 'new', '--watch'], {
      cwd: folder,
      env,
    });
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()));
    await eventually(() => expect(read('new', 'index.html')).to.include('consent.js'), 20_000);
    await eventually(() => expect(said).to.match(/^Wrote 3 pages to new;/), 20_000);
    // Watching begins after the first round.
    await new Promise((resolve) => setTimeout(resolve, 500));
    writeFileSync(at('site', 'contact.html'), PAGE);
    await eventually(() => expect(read('new', 'contact.html')).to.include('consent.js'), 20_000);
    await eventually(() => expect(said).to.include('1 file written, 0 removed.'));
    child.kill('SIGINT');
    const [code] = (await once(child, 'close')) as [number];
    expect(code).to.equal(0);
    await stage.close();
  });
});
