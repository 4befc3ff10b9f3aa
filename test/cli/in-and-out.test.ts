import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect } from 'chai';
import fc from 'fast-check';
import { snapshotDigest, type Placement, type Snapshot } from '@pragmatica/core';
import { readFolder, writeFolder } from '../../packages/cli/src/site-folder/folder.js';
import { cliRunner, type RunCli } from '../support/cli.js';
import { propertyRuns } from '../support/property-runs.js';
import { part, set, snippet } from '../support/sets.js';
import { startStage, type Stage } from '../support/stage.js';

/** Of every kind, with names that have to be written apart. */
const PLACES: readonly Placement[] = [
  { anchor: 'b #1', side: 'inside' },
  'head-end',
  { anchor: '1.a', side: 'after' },
  { selector: 'main > p:nth-of-type(2)', side: 'inside-end' },
  { selector: '.a\\:b [data-x="a \\"b"]', side: 'before' },
];

describe('a set as files in a folder', () => {
  it('is the same set again, whatever its code is', () => {
    const code = fc
      .array(
        fc.oneof(
          fc.string({ unit: 'grapheme' }),
          fc.constantFrom(
            '\n',
            '\r\n',
            '<!-- next part -->',
            '\n<!-- next part -->\n',
            '---',
            '\n---\n',
            '',
            ' ',
          ),
        ),
        { minLength: 1, maxLength: 6 },
      )
      .map((pieces) => pieces.join(''));
    fc.assert(
      fc.property(fc.array(code, { minLength: 1, maxLength: 4 }), fc.string(), (codes, note) => {
        const parts = codes.map((one, i) => part(PLACES[i % PLACES.length]!, i, one));
        const whole = set(
          snippet('one', { note, parts, needs: ['two'] }),
          snippet('two', {
            state: 'off',
            pages: { include: ['/a', '@g'], exclude: ['/b:c'] },
            parts: [part('head-end', 9, 'x')],
          }),
        );
        const files = writeFolder(whole);
        const again = readFolder(files);
        const codesOf = (snapshot: Snapshot): string[][] =>
          snapshot.snippets.map((one) => one.parts.map((each) => each.code));
        expect(codesOf(again)).to.deep.equal(codesOf(whole));
        expect([...writeFolder(again)]).to.deep.equal([...files]);
      }),
      propertyRuns(200),
    );
  });
});

describe('a site out of an installation, and into one', function () {
  this.timeout(120_000);
  let stage: Stage;
  let folder: string;
  let run: RunCli;
  const at = (...names: string[]): string => join(folder, ...names);
  const digestOf = async (site: string): Promise<string> =>
    (await stage.client.call('showDraft', { params: { site } })).data.digest;

  before(async () => {
    stage = await startStage();
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-in-out-'));
    const plain = cliRunner(() => stage.server, folder);
    const env = { PRAGMATICA_TOKEN: stage.token, PRAGMATICA_SITE: 'skerrywick', COLUMNS: '120' };
    run = (args, more = {}) => plain(args, { ...more, env: { ...env, ...more.env } });
  });

  after(async () => {
    rmSync(folder, { recursive: true });
    await stage.close();
  });

  it('as code: pulled, it is one readable file for each snippet, and pushed again it changes nothing', async () => {
    const before = await digestOf('skerrywick');
    const pulled = await run(['pull', at('site')]);
    expect(pulled.out).to.match(/^Wrote \d+ files\. .* holds \d+ snippets\.\n$/);
    expect(readFileSync(at('site', 'snippets', 'tag-container.html'), 'utf8')).to.match(
      /^---\nname: Tag container\n[^]*parts:\n {2}- at: head-start\n[^]*\n---\n<!-- Crateline -->\n[^]*\n<!-- next part -->\n<noscript>/,
    );
    expect((await run(['pull', at('site')])).out).to.match(/^Nothing has changed\./);
    const pushed = await run(['push', at('site')]);
    expect([pushed.out, pushed.code]).to.deep.equal([
      'Nothing would change: the draft matches the file.\n',
      0,
    ]);
    expect(await digestOf('skerrywick')).to.equal(before);
  });

  it('shows difference and findings before anything changes, and stops at new errors', async () => {
    const before = await digestOf('skerrywick');
    const file = at('site', 'snippets', 'tide-table.html');
    writeFileSync(
      file,
      '---\nname: Tide table\npages: ["/fares"]\nparts:\n  - at: body-end\n---\n<script>tide(</script>\n',
    );
    const shown = await run(['push', at('site'), '--dry-run']);
    expect(shown.code).to.equal(1);
    expect(shown.out).to.contain('“Tide table” is new: at the end of the body, on /fares.');
    expect(shown.out).to.contain('A script in “Tide table” is cut off');
    const stopped = await run(['push', at('site')]);
    expect(stopped.code).to.equal(1);
    expect(stopped.err).to.contain('Nothing was changed: one new error.');
    expect(await digestOf('skerrywick')).to.equal(before);
    writeFileSync(file, readFileSync(file, 'utf8').replace('tide(', 'window.tide = 1;'));
    const pushed = await run(['push', at('site'), '--publish', 'Tide table']);
    expect(pushed.out).to.match(/Published as release \d+\./);
    const listed = await stage.client.call('showSnippet', {
      params: { site: 'skerrywick', snippet: 'tide-table' },
    });
    expect(listed.data.parts[0]!.code).to.equal('<script>window.tide = 1;</script>');
  });

  it('keeps what the folder does not have, unless it is told otherwise', async () => {
    rmSync(at('site', 'snippets', 'tide-table.html'));
    const kept = await run(['push', at('site')]);
    expect(kept.err).to.contain('Not in the file, and kept: Tide table.');
    const removed = await run(['push', at('site'), '--remove']);
    expect(removed.out).to.match(/“Tide table” is gone/);
    await run(['pull', at('site')]);
    expect(readdirSync(at('site', 'snippets'))).not.to.include('tide-table.html');
  });

  it('says what is wrong with which file', async () => {
    const CASES: readonly (readonly [text: string, says: RegExp])[] = [
      ['<script></script>', /x\.html does not begin with its front matter/],
      ['---\nname: [\n---\nx\n', /x\.html: /],
      ['---\nname: X\nparts:\n  - at: bottom\n---\nx\n', /x\.html: “bottom” is not a placement/],
      ['---\nname: X\nparts: []\n---\nx\n', /x\.html names 0 parts at the top and has the code of 1/],
      ['---\nname: ""\nparts: [{at: head-end}]\n---\nx\n', /x\.html, \/name: Write something here/],
      ['---\nname: X\npages: ["fares"]\nparts: [{at: head-end}]\n---\nx\n', /x\.html, \/pages/],
      ['---\nname: X\nnonsense: 1\nparts: [{at: head-end}]\n---\nx\n', /x\.html, .*nonsense/],
    ];
    mkdirSync(at('wrong', 'snippets'), { recursive: true });
    writeFileSync(at('wrong', 'site.yaml'), readFileSync(at('site', 'site.yaml')));
    for (const [text, says] of CASES) {
      writeFileSync(at('wrong', 'snippets', 'x.html'), text);
      const { code, err } = await run(['push', at('wrong')]);
      expect(err, text).to.match(says);
      expect(err.trim().split('\n'), text).to.have.length(1);
      expect(code, text).to.equal(2);
    }
    expect((await run(['pull', folder])).err).to.match(/has files in it, and no site\.yaml/);
    expect((await run(['push', at('nowhere')])).err).to.match(/There is no folder/);
  });

  it('as one file: always the same bytes, valid by its schema, and the same site elsewhere', async () => {
    await run(['export', '--whole', '--out', at('whole.json')]);
    const text = readFileSync(at('whole.json'), 'utf8');
    expect((await run(['export', '--whole'])).out).to.equal(text);
    const schema = JSON.parse((await run(['export', '--schema'])).out) as object;
    const ajv = new Ajv2020({ strict: false, validateFormats: false });
    expect(ajv.validate(schema, JSON.parse(text)), ajv.errorsText()).to.equal(true);

    const dry = await run(['import', at('whole.json'), '--as', 'copy', '--without-hosts', '--dry-run']);
    expect(dry.out).to.match(/^Would add the site "copy" \(Skerrywick Ferries\): \d+ snippets, \d+ releases/);
    expect((await run(['site', 'show'], { env: { PRAGMATICA_SITE: 'copy' } })).code).not.to.equal(0);
    const taken = await run(['import', at('whole.json')]);
    expect([taken.code, taken.err]).to.deep.equal([
      5,
      'pragmatica: There is already a site "skerrywick". Choose another key.\n',
    ]);
    const added = await run(['import', at('whole.json'), '--as', 'copy', '--without-hosts']);
    expect(added.out).to.match(/^Added the site "copy"/);

    // The same but for its name in addresses, and for the digests that hold it.
    const copy = (await run(['export', '--whole'], { env: { PRAGMATICA_SITE: 'copy' } })).out;
    const plain = (file: string, key: string): unknown => {
      const { hosts: _, ...rest } = JSON.parse(file.replaceAll(`"key": "${key}"`, '"key": "KEY"')) as {
        hosts: unknown;
        releases: { digest: string }[];
      };
      return { ...rest, releases: rest.releases.map(({ digest: __, ...release }) => release) };
    };
    expect(plain(copy, 'copy')).to.deep.equal(plain(text, 'skerrywick'));
  });

  it('believes nothing of a file', async () => {
    const file = JSON.parse(readFileSync(at('whole.json'), 'utf8')) as {
      format: string;
      releases: { set: { snippets: { name: string }[] }; number: number }[];
    };
    const say = async (change: (copy: typeof file) => void): Promise<string> => {
      const copy = structuredClone(file);
      change(copy);
      writeFileSync(at('bad.json'), JSON.stringify(copy));
      const { err, code } = await run(['import', at('bad.json'), '--as', 'bad', '--without-hosts']);
      expect(code).not.to.equal(0);
      return err;
    };
    expect(await say((copy) => (copy.releases[0]!.set.snippets[0]!.name = 'Forged'))).to.match(
      /Release 1 in the file does not match its digest/,
    );
    expect(await say((copy) => (copy.format = 'other/1'))).to.match(/neither a set nor a whole site/);
    expect(await say((copy) => (copy.releases[0]!.number = 7))).to.match(/Release 1 is missing/);
    const { data } = await stage.client.call('listSites', { query: {} });
    expect(data.items.map(({ key }) => key)).not.to.include('bad');
  });

  it('a set comes into another site, with what it needs there', async () => {
    await run(['export', '--of', 'live', '--out', at('set.json')]);
    await stage.client.call('createSite', { body: { key: 'tide-mill', name: 'Tide Mill' } });
    const mill = { env: { PRAGMATICA_SITE: 'tide-mill' } };
    const shown = await run(['import', at('set.json'), '--dry-run'], mill);
    expect(shown.err).to.contain('The set is of the site "skerrywick".');
    expect(shown.out).to.match(/^\d+ changes:\n/);
    const before = await digestOf('tide-mill');
    expect(
      snapshotDigest((await stage.client.call('showDraft', { params: { site: 'tide-mill' } })).data.snapshot),
    ).to.equal(before);
    const done = await run(['import', at('set.json'), '--force'], mill);
    expect(done.err).to.contain('It is now in the draft of tide-mill.');
    const { data } = await stage.client.call('showSite', { params: { site: 'tide-mill' } });
    expect(data.name).to.equal('Tide Mill');
    expect(data.fields.map(({ name }) => name)).to.include('container');
    expect((await run(['import', at('set.json')], mill)).out).to.match(/^Nothing would change/);
  });
});
