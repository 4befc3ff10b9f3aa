import {
  exampleFile,
  exampleKnowledge,
  exampleSet,
  fileDifference,
  fileWords,
  orderReport,
  readScriptFile,
  runChecks,
  wholeAddress,
  type ExampleSnippet,
  type FileVersion,
  type KnownFile,
} from '@pragmatica/core';
import { expect } from 'chai';

const BASE = 'https://www.site.example';

describe('a script file', () => {
  it('is read for the names that it makes, in all the ways in which libraries make them', () => {
    const FORMS: readonly [string, string][] = [
      ['Tidebook', 'var Tidebook = {};'],
      ['Tidebook', '(function (w) { w.Tidebook = {}; })(window);'],
      ['Tidebook', '!function () { this.Tidebook = {}; }.call(this);'],
      [
        'Tidebook',
        "(function (root, make) { if (typeof define === 'function' && define.amd) define([], make); else root.Tidebook = make(); })(typeof self !== 'undefined' ? self : this, function () { return {}; });",
      ],
      ['Tidebook', "Object.defineProperty(window, 'Tidebook', { value: {} });"],
    ];
    for (const [name, code] of FORMS) expect(readScriptFile(code)?.defines, code).to.include(name);
  });

  it('is read for what it keeps in browsers and whom it talks to', () => {
    const reading = readScriptFile(
      "document.cookie = 'tm_visit=1; path=/'; localStorage.setItem('tm_seen', 1); fetch('https://in.tallymast.example/hit');",
    );
    expect(reading).to.deep.equal({
      ...{ defines: [], cookies: ['tm_visit'], stores: ['tm_seen'], hosts: ['in.tallymast.example'] },
      asks: ['connect in.tallymast.example'],
    });
  });

  it('is not known where it cannot be read: a page instead of a script, or half of one', () => {
    expect(readScriptFile('<!DOCTYPE html><title>Not found</title>')).to.equal(undefined);
    expect(readScriptFile('function half( {')).to.equal(undefined);
    expect(readScriptFile('')?.defines).to.deep.equal([]);
  });

  it('is told in one line', () => {
    const file = {
      status: 200,
      bytes: 12_345,
      cookies: ['tm_visit'],
      stores: [],
      hosts: ['in.tallymast.example'],
    };
    expect(fileWords(file)).to.equal('12 KB; sets the cookie tm_visit; talks to in.tallymast.example');
    expect(fileWords({ ...file, status: 404 })).to.equal('cannot be loaded: its server answers with 404');
    expect(fileWords({ ...file, status: null })).to.equal('its server does not answer');
    const many = Array.from({ length: 9 }, (_, i) => `c${i}`);
    expect(fileWords({ ...file, cookies: many })).to.include('c5 and …');
  });

  it('has one address, however a page writes it', () => {
    for (const written of ['/a.js', 'a.js#top', '//www.site.example/a.js', 'https://www.site.example/a.js'])
      expect(wholeAddress(written, `${BASE}/fares`), written).to.equal(`${BASE}/a.js`);
    expect(wholeAddress('data:text/javascript,1', BASE)).to.equal(undefined);
    expect(wholeAddress('https://[', BASE)).to.equal(undefined);
  });
});

describe('what is known of files', () => {
  const LIBRARY = `${BASE}/tidebook.js`;
  const one = (
    name: string,
    placement: 'head-start' | 'head-end' | 'body-end',
    code: string,
  ): ExampleSnippet => ({
    name,
    parts: [{ placement, code }],
  });
  const library = one('Library', 'head-end', '<script src="/tidebook.js"></script>');
  const call = '<script>Tidebook.open();</script>';
  const known = {
    files: { base: BASE, files: [exampleFile(LIBRARY, { defines: ['Tidebook'] })] },
  };
  const checksOf = (snippets: readonly ExampleSnippet[], knowledge: object): string[] =>
    runChecks(exampleSet(snippets), { ...exampleKnowledge({}), ...knowledge })
      .filter(({ area }) => area === 'order')
      .map(({ check }) => check);

  it('orders two snippets of which one calls what the other’s file makes', () => {
    const wrong = [one('Calendar', 'head-start', call), library];
    expect(checksOf(wrong, known)).to.deep.equal(['used-before-defined']);
    // Of a file that nobody has read its name tells, and no more.
    expect(checksOf(wrong, {})).to.deep.equal(['used-before-defined']);
    const unnamed = one('Library', 'head-end', '<script src="/app.js"></script>');
    expect(checksOf([wrong[0]!, unnamed], {})).to.deep.equal([]);
    expect(checksOf([library, one('Calendar', 'body-end', call)], known)).to.deep.equal([]);
    expect(orderReport(exampleSet(wrong), known).change).to.not.equal(undefined);
  });

  it('makes a race of a call beside a file that comes when it comes', () => {
    const later = one('Library', 'head-end', '<script async src="/tidebook.js"></script>');
    expect(checksOf([later, one('Calendar', 'body-end', call)], known)).to.deep.equal([
      'used-before-defined',
    ]);
  });

  it('is what a page brings, too: a snippet that is off is not missed where the page has it', () => {
    const off = { ...library, state: 'off' as const };
    const calendar = one('Calendar', 'body-end', call);
    const page = (head: string) => ({
      '/': `<!DOCTYPE html><html><head><title>t</title>${head}</head><body><p>x</p></body></html>`,
    });
    const seen = (head: string) => ({ ...exampleKnowledge({ pages: page(head) }, exampleSet([])), ...known });
    expect(checksOf([off, calendar], seen(''))).to.deep.equal(['needs-what-is-off']);
    expect(checksOf([off, calendar], seen('<script src="/tidebook.js"></script>'))).to.deep.equal([]);
    // What somebody ignores still does what it does.
    const ignoring = seen('<script src="/tidebook.js"></script>');
    const ignored = (ignoring.seen ?? []).map(({ key }) => key);
    expect(checksOf([off, calendar], { ...ignoring, ignored })).to.deep.equal([]);
    // A file of which nobody knows what it does may bring anything.
    expect(checksOf([calendar], seen(''))).to.deep.equal(['nothing-brings']);
    expect(checksOf([calendar], seen('<script src="/unknown.js"></script>'))).to.deep.equal([]);
  });
});

describe('page rules that match no page', () => {
  it('are told only where all pages are known', () => {
    const set = exampleSet([
      {
        name: 'Prices',
        include: ['/fare'],
        parts: [{ placement: 'head-end', code: '<meta name="a" content="b">' }],
      },
    ]);
    const known = exampleKnowledge({ pages: { '/fares': '<title>t</title><p>x</p>' } }, exampleSet([]));
    const told = (hasMorePages: boolean) =>
      runChecks(set, { ...known, hasMorePages }).flatMap(({ check, advice }) =>
        check === 'pattern-without-page' ? [advice] : [],
      );
    expect(told(true)).to.deep.equal([]);
    expect(told(false)[0]).to.include('/fares is close');
  });
});

describe('what has changed in files between two surveys', () => {
  const file = (change: Partial<FileVersion> & Partial<KnownFile> = {}): FileVersion => ({
    ...exampleFile('https://tallymast.example/count.js', { bytes: 12_000 }),
    ...{ digest: 'a', lastModified: null },
    ...change,
  });
  const day = (at: Date): string => at.toISOString().slice(0, 10);
  const lines = (was: Partial<FileVersion>, is: Partial<FileVersion>): string[] =>
    fileDifference([file(was)], [file(is)], day);

  it('is a line: when, and what it does since', () => {
    const changed = { digest: 'b', lastModified: 'Wed, 03 Mar 2027 09:00:00 GMT' };
    expect(
      lines({ cookies: ['tm_visit'] }, { ...changed, cookies: ['tm_day', 'tm_id', 'tm_visit'] }),
    ).to.deep.equal([
      'The file tallymast.example/count.js changed on 2027-03-03. Since then it sets 2 cookies more: tm_day and tm_id.',
    ]);
    expect(
      lines(
        { hosts: ['in.tallymast.example'], defines: ['tally'] },
        { digest: 'b', hosts: ['ads.example', 'in.tallymast.example'], bytes: 48_000 },
      ),
    ).to.deep.equal([
      'The file tallymast.example/count.js has changed. It now talks to ads.example. It no longer defines tally. It went from 12 to 48 KB.',
    ]);
  });

  it('is told where it can be had no more', () => {
    const gone = { digest: null, bytes: 0, isRead: false };
    expect(lines({}, { ...gone, status: 404 })[0]).to.equal(
      'The file tallymast.example/count.js can no longer be loaded: its server answers with 404.',
    );
    expect(lines({}, { ...gone, status: null })[0]).to.include('does not answer');
  });

  it('is nothing where it is the same, new, or was not there before either', () => {
    expect(lines({}, {})).to.deep.equal([]);
    expect(fileDifference([], [file()], day)).to.deep.equal([]);
    expect(lines({ digest: null, status: 404 }, { digest: 'b' })).to.deep.equal([]);
  });
});
