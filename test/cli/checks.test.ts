import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CHECKS, exampleRecipe, type OpenFinding } from '@pragmatica/core';
import { Ajv } from 'ajv';
import addFormats from 'ajv-formats';
import { expect } from 'chai';
import type { Log } from 'sarif';
import { validateXML } from 'xmllint-wasm';
import { cliRunner } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

const schema = (name: string): string =>
  readFileSync(new URL(`../support/schemas/${name}`, import.meta.url), 'utf8');

describe('check reports, waivers, the order and pasting on the command line', () => {
  let stage: Stage;
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-cli-'));
  const runner = cliRunner(() => stage.server, folder);
  before(async () => {
    stage = await startStage({ hasDemo: false });
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
  });
  after(() => stage.close());
  const run = (args: readonly string[], input = '') =>
    runner(args, { input, env: { PRAGMATICA_TOKEN: stage.token } });

  /** A set with an error, a warning, an advice, and text that reports must escape. */
  const set = {
    format: 'pragmatica-set/1',
    site: { key: 'mill', name: 'Tide Mill', timeZone: 'UTC' },
    snippets: [
      ['event', 'Event <"&\u0001">', 'head-start', "<script>tally('se\u0007en');</script>"],
      ['counter', 'Counter', 'head-end', '<script>function tally() { tally.q.push(1); }</script>'],
      ['share', 'Share', 'body-end', '<script async src="http://sharebuoy.example/share.js"></script>'],
      [
        'slider',
        'Slider',
        'body-end',
        '<script defer src="https://files.example/deckhand-3.0.0.js"></script>',
      ],
    ].map(([key, name, placement, code], rank) => ({ key, name, parts: [{ placement, code, rank }] })),
  };
  before(() => writeFileSync(join(folder, 'set.json'), JSON.stringify(set)));

  describe('as SARIF', () => {
    it('fits the schema, with a rule for every check and a place for every finding', async () => {
      const { out, code } = await run(['check', '--set', 'set.json', '--format', 'sarif']);
      expect(code).to.equal(1);
      const log = JSON.parse(out) as Log;
      const ajv = new Ajv({ strict: false, allErrors: true, unicodeRegExp: false });
      addFormats.default(ajv);
      const validate = ajv.compile(JSON.parse(schema('sarif-2.1.0.json')) as object);
      validate(log);
      expect(validate.errors ?? []).to.deep.equal([]);
      const [first] = log.runs;
      expect(first!.tool.driver.rules!.map(({ id }) => id)).to.deep.equal(CHECKS.map(({ id }) => id));
      expect(first!.results!.map(({ level, ruleId }) => [level, ruleId])).to.deep.equal([
        ['error', 'used-before-defined'],
        ['warning', 'insecure-address'],
        ['note', 'unpinned-file'],
      ]);
      for (const { ruleId, ruleIndex, locations } of first!.results!) {
        expect(first!.tool.driver.rules![ruleIndex!]!.id).to.equal(ruleId);
        expect(locations![0]!.physicalLocation!.artifactLocation!.uri).to.match(/^\w+\/1$/);
      }
      const { region } = first!.results![0]!.locations![0]!.physicalLocation!;
      expect(
        set.snippets[0]!.parts[0]!.code!.slice(region!.charOffset, region!.charOffset! + region!.charLength!),
      ).to.equal('tally');
    });

    it('is refused by the schema when it is not', () => {
      const ajv = new Ajv({ strict: false, unicodeRegExp: false });
      addFormats.default(ajv);
      expect(ajv.validate(JSON.parse(schema('sarif-2.1.0.json')) as object, { version: '2.1.0' })).to.equal(
        false,
      );
    });
  });

  describe('as JUnit', () => {
    const validate = async (xml: string) =>
      validateXML({ xml: [{ fileName: 'report.xml', contents: xml }], schema: [schema('junit.xsd')] });

    it('fits the schema and counts what fails from the severity on that is asked for', async () => {
      const { out } = await run(['check', '--set', 'set.json', '--format', 'junit']);
      const { errors } = await validate(out);
      expect(errors.map(({ message }) => message)).to.deep.equal([]);
      expect(out).to.include('failures="1"').and.include('&lt;&quot;&amp;');
      expect([out.includes('\u0001'), out.includes('\u0007')]).to.deep.equal([false, false]);
      expect(Number(/<testsuites[^>]* tests="(\d+)"/.exec(out)![1])).to.equal(CHECKS.length);
      const strict = await run(['check', '--set', 'set.json', '--format', 'junit', '--fail-on', 'warning']);
      expect(/<testsuites[^>]*failures="(\d+)"/.exec(strict.out)![1]).to.equal('2');
    });

    it('is refused by the schema when it is not', async () => {
      const { valid } = await validate('<testsuites tests="1" failures="x" errors="0"><other/></testsuites>');
      expect(valid).to.equal(false);
    });
  });

  it('explains what must come first, and what the provider says, in its examples', async () => {
    expect((await run(['explain', 'stated-need'])).out).to.include('must come after cookie-question');
    expect((await run(['explain', 'not-first'])).out).to.include(
      'The provider says: “This must be the first',
    );
  });

  it('compares only with sets of the service', async () => {
    const { code, err } = await run(['check', '--set', 'set.json', '--against', 'live']);
    expect([code, err.includes('does not go with --set')]).to.deep.equal([2, true]);
  });

  it('names the command that fixes only for what it fixes: the draft', async () => {
    const { out } = await run(['check', '--set', 'set.json', '--json']);
    const fixable = (JSON.parse(out) as { items: OpenFinding[] }).items.filter(({ fix }) => fix);
    expect(fixable).not.to.deep.equal([]);
    expect((await run(['check', '--set', 'set.json'])).out).not.to.include('pragmatica fix');
    const params = { site: 'mill' };
    const parts = [{ placement: 'head-end' as const, code: 'window.bare = 1;' }];
    await stage.client.call('createSnippet', { params, body: { key: 'bare', name: 'Bare', parts } });
    expect((await run(['check'])).out).to.include('pragmatica fix no-script-tags-');
    await stage.client.call('removeSnippet', { params: { ...params, snippet: 'bare' }, ifMatch: '*' });
  });

  describe('of a set in a file', () => {
    const site = mkdtempSync(join(folder, 'site-'));
    const write = (name: string, text: string) => {
      writeFileSync(join(site, name), text);
      return join(site, name);
    };
    before(() => {
      mkdirSync(join(site, 'pages'));
      write('pages/fares.html', '<!doctype html><html><head><title>Fares</title></head><body></body></html>');
      write('headers.txt', "Content-Security-Policy: script-src 'self'\n");
    });
    const tide = (more: object = {}) => ({
      format: 'pragmatica-set/1',
      site: { key: 'mill', name: 'Tide Mill', timeZone: 'UTC' },
      snippets: [
        {
          key: 'tide',
          name: 'Tides',
          pages: { include: ['/fares/'], exclude: [] },
          parts: [
            {
              placement: 'head-end',
              rank: 0,
              code: '<script async src="https://tidebook.example/tides.js"></script>',
            },
          ],
        },
      ],
      ...more,
    });
    const found = async (args: readonly string[]) => {
      const { out } = await run(['check', '--json', ...args]);
      const { items, unknown } = JSON.parse(out) as {
        items: { check: string }[];
        unknown: { ask: string; checks: string[] }[];
      };
      return { checks: items.map(({ check }) => check), unknown: unknown.map(({ ask }) => ask) };
    };

    it('says what it could not know, and how many checks had to do without', async () => {
      const set = write('alone.json', JSON.stringify(tide()));
      const { out } = await run(['check', '--set', set]);
      expect(out).to.match(
        /What the checks could not know\n {2}The pages: no survey yet, so \d+ checks saw only the snippets/,
      );
      expect(await found(['--set', set])).to.deep.equal({
        checks: [],
        unknown: ['survey', 'files', 'hosts', 'recipes'],
      });
    });

    it('is told of pages, headers, hosts and a zone by options', async () => {
      const set = write('by-options.json', JSON.stringify(tide()));
      const pages = ['--pages', join(site, 'pages'), '--host', 'www.mill.example'];
      expect(await found(['--set', set, ...pages])).to.deep.equal({
        checks: ['pattern-without-page'],
        unknown: ['files', 'recipes'],
      });
      const headers = ['--headers', join(site, 'headers.txt')];
      const everywhere = tide();
      everywhere.snippets[0]!.pages.include = [];
      write('everywhere.json', JSON.stringify(everywhere));
      const { checks } = await found(['--set', join(site, 'everywhere.json'), ...pages, ...headers]);
      expect(checks).to.deep.equal(['blocked-by-policy']);
    });

    it('is told the same in the file, where paths count from', async () => {
      const known = {
        hosts: ['www.mill.example', 'staging:trial.mill.example'],
        pages: 'pages',
        at: '2027-03-31T10:00',
      };
      const set = write('with-known.json', JSON.stringify(tide({ known })));
      expect(await found(['--set', set])).to.deep.equal({
        checks: ['pattern-without-page'],
        unknown: ['files', 'recipes'],
      });
    });

    it('tells with a recipe’s file what a code is an install of', async () => {
      const recipe = exampleRecipe('tides', 'Tidebook tides', {
        recognise: { hosts: ['tidebook.example'], addresses: [], globals: [] },
        parts: [{ key: 'loader', placement: 'head-end', required: true, code: '<meta name="tides">' }],
      });
      const code = write('tides.html', tide().snippets[0]!.parts[0]!.code);
      const file = write('tides.json', JSON.stringify(recipe));
      const { out } = await run(['read', code, '--recipes', file]);
      expect(out).to.include('It is an install of “Tidebook tides”, version 1.');
      expect((await run(['read', code])).out).not.to.include('install of');
    });

    it('refuses what it cannot read, in one line', async () => {
      const set = write('refused.json', JSON.stringify(tide()));
      const wrong = write('wrong-known.json', JSON.stringify(tide({ known: { pages: 7 } })));
      for (const [args, words] of [
        [['--set', set, '--zone', 'Mars/Here'], /"Mars\/Here" is not a time zone/],
        [['--set', set, '--host', 'a b'], /"a b" is not a host/],
        [['--set', set, '--headers', set], /a header is written "Name: value"/],
        [['--set', set, '--recipes', set], /is not a recipe/],
        [['--set', wrong], /\/known\/pages/],
        [['--zone', 'UTC'], /--zone goes with --set/],
      ] as const) {
        const { code, err } = await run(['check', ...args]);
        expect(code, args.join(' ')).not.to.equal(0);
        expect(err.trim()).to.match(words).and.not.include('\n');
      }
    });
  });

  it('asks for a format that it knows', async () => {
    const { code, err } = await run(['check', '--set', 'set.json', '--format', 'xls']);
    expect(code).to.equal(2);
    expect(err).to.include('table, json, sarif, junit');
  });

  it('adds what is pasted: says what it is, splits it, names it, and checks it with the rest', async () => {
    const crate =
      '<script async src="https://crateline.example/crate.js?id=CR-20-3"></script>\n<noscript><iframe src="https://crateline.example/n.html?id=CR-20-3"></iframe></noscript>';
    const asked = await run(['snippet', 'add', '--paste'], crate);
    expect(asked.code).to.equal(2);
    expect(asked.err).to.include('--yes');
    const { code, out, err } = await run(
      ['snippet', 'add', '--paste', '--yes', '--said', 'as high in the head as possible'],
      crate,
    );
    expect(code, err).to.equal(0);
    expect(err).to.include('In 2 pieces, each in its place').and.include('The provider says so.');
    expect(out).to.include('Added "crateline-tag-container"').and.include('find nothing wrong');
    const shown = await run(['snippet', 'show', 'crateline-tag-container']);
    expect(shown.out).to.include('crateline-tag-container/2').and.include('The provider says: “as high');
    const again = await run(['snippet', 'add', 'Again', '--paste', '--yes'], crate);
    expect(again.out).to.match(/error: “Again”.*same code/);
    await run(['snippet', 'remove', 'again', '--yes']);
    expect((await run(['snippet', 'add', '--paste', '--yes'], ' ')).err).to.include('There is no code');
  });

  it('accepts a finding with a reason until a day, and takes that back', async () => {
    await run(
      ['snippet', 'add', 'Share', '--placement', 'body-end', '--code', '-'],
      '<script async src="http://sharebuoy.example/share.js"></script>',
    );
    const before = JSON.parse((await run(['check', '--json'])).out) as { items: { id: string }[] };
    const { id } = before.items[0]!;
    expect((await run(['waive', id])).err).to.include('--until 2027-03-31');
    const done = await run(['waive', id, '--reason', 'No https yet', '--until', '2999-01-31']);
    expect(done.out).to.include('Accepted until 2999-01-31: No https yet');
    const after = await run(['check', '--fail-on', 'warning']);
    expect(after.code).to.equal(0);
    expect(after.out).to.include('1 accepted').and.include('by admin until 2999-01-31: No https yet');
    const log = JSON.parse((await run(['check', '--format', 'sarif'])).out) as Log;
    expect(log.runs[0]!.results![0]!.suppressions![0]!.justification).to.include('No https yet');
    expect((await run(['check', '--format', 'junit'])).out).to.include('Accepted by admin');
    await run(['waive', id, '--end']);
    expect((await run(['check', '--fail-on', 'warning'])).code).to.equal(1);
    expect((await run(['waive', 'gone-1', '--reason', 'because', '--until', '2999-01-31'])).code).to.equal(4);
  });

  it('shows what needs what, and puts it in the right order', async () => {
    await run(
      ['snippet', 'add', 'Event', '--placement', 'head-end', '--code', '-'],
      "<script>tally('seen');</script>",
    );
    await run(
      [
        'snippet',
        'add',
        'Counter',
        '--placement',
        'head-end',
        '--code',
        '-',
        '--needs',
        'crateline-tag-container',
      ],
      '<script>function tally() { tally.q.push(1); }</script>',
    );
    const shown = await run(['order']);
    expect(shown.code).to.equal(1);
    expect(shown.out).to.include('wrong  “Event” uses “tally”, which “Counter” defines');
    expect(shown.out).to.include(
      'fine   a note says that “Counter” needs “Crateline tag container” (piece 1)',
    );
    expect((await run(['order', '--right', '--preview'])).out).to.include('This would fix the order');
    expect((await run(['order', '--right'])).out).to.include('Move “Event” right below “Counter”');
    expect((await run(['order'])).code).to.equal(0);
    expect((await run(['order', '--right'])).out).to.include('Nothing needs to move.');
    expect((await run(['order', '--of', 'live', '--right'])).code).to.equal(2);
  });

  it('publishes in spite of an error only with a reason, and lists it', async () => {
    await run(
      ['snippet', 'add', 'Twice', '--placement', 'head-end', '--code', '-'],
      "<script>tally('seen');</script>",
    );
    const refused = await run(['publish', '-m', 'first']);
    expect(refused.code).to.equal(2);
    expect(refused.err).to.include('the checks find an error');
    expect((await run(['publish', '-m', 'first', '--force', 'The fair opens at nine'])).code).to.equal(0);
    expect((await run(['releases'])).out).to.include('(forced: The fair opens at nine)');
    expect((await run(['check', '--against', 'live'])).out).to.include('Nothing to fix');
    expect((await run(['snippet', 'history', 'twice'])).out)
      .to.include('Release 1')
      .and.include('“Twice” is new');
    expect((await run(['snippet', 'history', 'nothing'])).out).to.include('No release has');
  });
});
