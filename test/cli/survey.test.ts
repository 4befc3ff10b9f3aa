import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { cliRunner, type RunCli } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

describe('surveys on the command line', function () {
  this.timeout(90_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;

  before(async () => {
    stage = await startStage({ hasWorker: true });
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-cli-'));
    const plain = cliRunner(() => stage.server, folder);
    const env = { PRAGMATICA_TOKEN: stage.token, PRAGMATICA_SITE: 'skerrywick', COLUMNS: '120' };
    run = (args, more = {}) => plain(args, { ...more, env: { ...env, ...more.env } });
  });

  after(async () => {
    rmSync(folder, { recursive: true });
    await stage.close();
  });

  it('say what to do while there is none', async () => {
    expect((await run(['survey', 'list'])).out).to.equal('No surveys yet. "pragmatica survey" starts one.\n');
    const none = await run(['sightings']);
    expect(none.code).to.equal(4);
    expect(none.err).to.match(/^pragmatica: No survey of "skerrywick" has finished yet\./);
  });

  it('are followed to their end, and say what comes next', async () => {
    const { code, out, err } = await run(['survey', '--limit', '500']);
    expect(code).to.equal(0);
    expect(out).to.match(
      /^Survey 1 of skerrywick\.localhost: 21 pages visited in \d+(\.\d)? s\.\nSurvey 2 of skerrywick\.localhost \(origin\): 21 pages visited in \d+(\.\d)? s\.\n$/,
    );
    expect(err).to.match(/Next: "pragmatica sightings"/);
    const sides = await run(['survey', 'sides']);
    expect(sides.code).to.equal(0);
    expect(sides.out).to.include('“Visit counter” is added by Pragmatica, on 21 pages.');
    expect(sides.out).to.include(
      'Apart from what Pragmatica adds, visitors get what the site’s own server sends.',
    );
    expect((await run(['survey', 'list'])).out).to.match(
      /1 +\d{4}-\d\d-\d\d \d\d:\d\d +skerrywick\.localhost +done +21 of 21/,
    );
    expect((await run(['survey', 'changes'])).out).to.equal(
      'There is no survey before it to compare with.\n',
    );
  });

  it('read a folder of files, or what a browser recorded, instead of asking the site', async () => {
    const files = join(folder, 'public');
    mkdirSync(join(files, 'about'), { recursive: true });
    writeFileSync(join(files, 'index.html'), '<!DOCTYPE html><title>Start</title>');
    writeFileSync(
      join(files, 'about', 'us.html'),
      '<!DOCTYPE html><title>Us</title><script src="/u.js"></script>',
    );
    writeFileSync(join(files, 'notes.txt'), 'no page');
    const env = { PRAGMATICA_SITE: 'files' };
    await run(['site', 'add', 'Files', '--key', 'files', '--live', 'files.localhost=http://localhost:9']);
    const { code, out } = await run(['survey', '--folder', files, '--clean-paths'], { env });
    expect(out).to.match(/^Survey 1 of files\.localhost \(origin, handed over\): 2 pages visited/);
    expect(code).to.equal(0);
    expect((await run(['pages'], { env })).out).to.equal('/\n/about/us\n');
    const content = { mimeType: 'text/html', text: '<!DOCTYPE html><title>Seen</title>' };
    const request = { method: 'GET', url: 'https://files.example/seen?x=1' };
    const har = join(folder, 'visit.har');
    writeFileSync(
      har,
      JSON.stringify({ log: { entries: [{ request, response: { status: 200, content } }] } }),
    );
    const recorded = await run(['survey', '--har', har], { env });
    expect(recorded.out).to.match(/^Survey 2 of files\.localhost \(handed over\): one page visited/);
    expect((await run(['page', '/seen?x=1'], { env })).out).to.include('Seen');
    const none = await run(['survey', '--folder', join(folder, 'none')], { env });
    expect(none.err).to.match(/^pragmatica: There is no folder/);
  });

  it('begin by themselves when they are planned', async () => {
    expect((await run(['survey', 'schedule'])).out).to.match(/^No surveys are planned\./);
    expect((await run(['survey', 'schedule', '0 6 * * 1', '--public'])).out).to.match(
      /^Surveys of skerrywick\.localhost begin every Monday at 06:00, next on \d{4}-\d\d-\d\d/,
    );
    expect((await run(['survey', 'schedule'])).out).to.match(
      /skerrywick\.localhost +every Monday at 06:00 +\d{4}/,
    );
    const wrong = await run(['survey', 'schedule', 'mondays']);
    expect(wrong.code).to.not.equal(0);
    expect(wrong.err).to.match(/“mondays” is not a schedule\. Write five fields/);
    expect((await run(['survey', 'schedule', '--off'])).out).to.match(
      /^Stopped the planned surveys of skerrywick/,
    );
  });

  it('list what stands in the pages, what needs somebody first', async () => {
    const { out, err } = await run(['sightings']);
    expect(out.split('\n')[1]).to.match(
      /^\d+ +copy +4 +Tallymast visit counter +The same code as “Visit counter”/,
    );
    expect(err).to.match(
      /1 also in the site itself, 0 altered, 0 foreign \(survey 1 of skerrywick\.localhost/,
    );
    expect((await run(['sightings', '--altered'])).out).to.equal('Nothing matches.\n');
    const id = out.split('\n')[1]!.split(' ')[0]!;
    const one = await run(['sightings', id]);
    expect(one.out).to.match(/Remove it there\.\n\nIn the page\n<script async src=/);
    const json = JSON.parse((await run(['sightings', '--copy', '--json'])).out) as {
      items: { id: number }[];
    };
    expect(json.items.map((item) => item.id)).to.deep.equal([Number(id)]);
  });

  it('adopt what is foreign, and leave alone what somebody ignores', async () => {
    const { items } = JSON.parse((await run(['sightings', '--all', '--foreign', '--json'])).out) as {
      items: { id: number; kind: string }[];
    };
    const script = items.find(({ kind }) => kind === 'script')!;
    const style = items.find(({ kind }) => kind === 'style')!;
    const adopted = await run(['adopt', String(script.id), '--name', 'Contact line']);
    expect(adopted.out).to.match(
      /^“Contact line” is in the draft, switched off, so that nothing runs twice\. It is written into \/contact\./,
    );
    expect((await run(['snippet', 'show', 'contact-line'])).out).to.match(/^Contact line +off/);
    const without = await run(['ignore', String(style.id)]);
    expect(without.code).to.equal(2);
    expect((await run(['ignore', String(style.id), '--because', 'It is ours.'])).out).to.match(/left alone/);
    expect((await run(['sightings', '--all', '--foreign'])).out).not.to.match(/site\.css/);
    expect((await run(['ignore', String(style.id), '--undo'])).out).to.match(/reported again/);
  });

  it('tell coverage, as CSV too, and end with 1 when anything is missing', async () => {
    const { code, out } = await run(['coverage']);
    expect(code).to.equal(0);
    expect(out).to.match(/newsletter-form +19 \/ 19 +Newsletter form +On all 19 pages where it should be\./);
    const csv = (await run(['coverage', '--csv'])).out.split('\n');
    expect(csv[0]).to.match(/^section,type,pages,cookie-question expected,cookie-question present,/);
    expect(csv.find((line) => line.startsWith('/news,'))).to.match(/^\/news,other,4,4,4,/);
  });

  it('tell all of one page, and which pages are unusual', async () => {
    const { out } = await run(['page', '/history']);
    expect(out).to.match(/Encoding: windows-1252 \(by a meta element\)/);
    expect(out).to.match(/In an older encoding\. Characters that the encoding lacks/);
    const listed = await run(['pages', '--surveyed', 'all', '--section', '/news']);
    expect(listed.out.match(/^\/news/gm)).to.have.length(4);
    expect(listed.err).to.match(/With a content policy: \/booking\/confirmation/);
    expect((await run(['page', '/none'])).code).to.equal(4);
  });

  it('visit what a file lists, or a recording of a browser', async () => {
    const entry = (url: string, mimeType: string) => ({
      request: { method: 'GET', url },
      response: { content: { mimeType } },
    });
    const har = {
      log: {
        entries: [
          entry('http://skerrywick.localhost/hidden?x=1', 'text/html'),
          entry('http://skerrywick.localhost/a.css', 'text/css'),
        ],
      },
    };
    writeFileSync(join(folder, 'visit.har'), JSON.stringify(har));
    writeFileSync(join(folder, 'pages.txt'), '# pages\n/listed\nhttps://elsewhere.example/other\n');
    await run(['survey', '--paths-from', 'visit.har']);
    expect((await run(['page', '/hidden?x=1'])).out).to.match(/^\/hidden\?x=1 {2}404/);
    await run(['survey', '--paths-from', 'pages.txt']);
    expect((await run(['page', '/listed'])).code).to.equal(0);
    writeFileSync(join(folder, 'not.har'), '{"log": 1}');
    const refused = await run(['survey', '--paths-from', 'not.har']);
    expect(refused.code).to.equal(2);
    expect(refused.err).to.equal('pragmatica: "not.har" is neither a list of addresses nor a HAR file.\n');
  });

  it('get into hosts that are not public, with what standard input opens them with', async () => {
    expect((await run(['site', 'access'])).out).to.match(/^All hosts are public/);
    const host = 'staging.skerrywick.localhost';
    expect((await run(['site', 'access', host], { input: 'x' })).code).to.equal(2);
    const kept = await run(['site', 'access', host, '--basic', 'editor'], { input: 'lee shore\n' });
    expect(kept.out).to.equal(`Saved. Surveys and verification can now get into ${host}.\n`);
    const listed = await run(['site', 'access']);
    expect(listed.out).to.match(/staging\.skerrywick\.localhost +basic/);
    expect(listed.out).not.to.include('lee shore');
    expect((await run(['site', 'access', host, '--forget'])).code).to.equal(0);
  });

  it('switch several snippets at once, and list those that fit', async () => {
    const { out } = await run(['snippet', 'off', 'visit-counter', 'tag-container']);
    expect(out.split('\n').filter(Boolean)).to.have.length(2);
    const off = await run(['snippet', 'list', '--state', 'off']);
    expect(off.out)
      .to.match(/visit-counter/)
      .and.not.match(/cookie-question/);
    expect((await run(['snippet', 'list', '--find', 'TM-1887', '--json'])).out).to.match(
      /"key": "visit-counter"/,
    );
    expect((await run(['snippet', 'list', '--placement', 'inside:#booking-widget'])).out).to.match(
      /booking-button/,
    );
    expect((await run(['snippet', 'list', '--find', 'nothing like it'])).out).to.equal(
      'No snippet matches.\n',
    );
    const moved = await run(['snippet', 'move', 'visit-counter', 'tag-container', '--to', 'body-end']);
    expect(moved.out).to.equal(
      'Now at the end of the body: visit-counter. Visitors see this once you publish.\nLeft as they are, with parts in several places: tag-container.\n',
    );
    expect((await run(['snippet', 'move', 'visit-counter', 'tag-container', '--first'])).err).to.match(
      /To move several snippets, add --to/,
    );
    const none = await run(['snippet', 'on', 'visit-counter', 'nobody']);
    expect(none.code).to.equal(4);
    expect((await run(['snippet', 'list', '--state', 'off'])).out).to.match(/visit-counter/);
  });
});
