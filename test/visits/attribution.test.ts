import { expect } from 'chai';
import type { Attribution } from '@pragmatica/core';
import { type LoadEvidence, type Owner } from '@pragmatica/core';
import { calls, element, opened, PAGE_URL, placeBehind, request, seenScript } from '../support/evidence.js';
import { part, set, snippet } from '../support/sets.js';

const LOADER = '<script src="https://crate.example/c.js"></script>';
const INLINE = '<script>window.tide = ["start"]</script>';
const snapshot = set(
  snippet('crate', { parts: [part('head-end', 0, LOADER)] }),
  snippet('tide', { parts: [part('head-end', 1, INLINE)] }),
);
const HTML = `<!doctype html>\n<html><head><title>x</title>\n${LOADER}${INLINE}</head><body>\r\n<script src="/own.js"></script></body></html>`;

/** "crate", "crate via c.js", "page", "unknown". */
function words(owner: Owner): string {
  if (owner.kind === 'unknown') return 'unknown';
  const via = owner.via.map((file) => file.split('/').at(-1)!);
  const who = owner.kind === 'page' ? 'page' : owner.snippet;
  return via.length === 0 ? who : `${who} via ${via.join(', ')}`;
}

function attribution(change: Partial<LoadEvidence>): Attribution {
  return opened(snapshot, { html: HTML, ...change }).attribution;
}

const byTag = (text: string) =>
  ({ by: 'parser', url: PAGE_URL, ...placeBehind(HTML, text), stack: [] }) as const;

describe('whose doing something is', () => {
  it('is told of tags by their place in the page', () => {
    const ours = request('https://crate.example/c.js', { initiator: byTag(LOADER.replace('</script>', '')) });
    const own = request('http://x.example/own.js', { initiator: byTag('<script src="/own.js">') });
    const page = request(PAGE_URL, { kind: 'document' });
    const found = attribution({ requests: [page, ours, own] });
    expect([page, ours, own].map((one) => words(found.ofRequest(one)))).to.deep.equal([
      'page',
      'crate',
      'page',
    ]);
  });

  it('is told of inline scripts by their place, and by their text where they were put in later', () => {
    const { line, column } = placeBehind(HTML, '<script>');
    const placed = seenScript('1', { line, column, source: 'window.tide = ["start"]' });
    const late = seenScript('2', { source: 'window.tide = ["start"]', stack: calls('9') });
    const own = seenScript('3', { line: 0, column: 0, source: 'own()' });
    const found = attribution({ scripts: [placed, late, own] });
    expect(['1', '2', '3', '4'].map((id) => words(found.ofScript(id)))).to.deep.equal([
      'tide',
      'tide',
      'page',
      'unknown',
    ]);
  });

  it('is told of a file that runs once more without being asked for by the element that stands for no request', () => {
    const COUNTER = '<script async src="https://count.example/k.js"></script>';
    const two = set(
      snippet('crate', { parts: [part('head-end', 0, LOADER)] }),
      snippet('counter', { parts: [part('head-end', 1, COUNTER)] }),
    );
    const html = HTML.replace(INLINE, COUNTER);
    const tag = (text: string) =>
      ({ by: 'parser', url: PAGE_URL, ...placeBehind(html, text), stack: [] }) as const;
    const crate = request('https://crate.example/c.js', {
      initiator: tag(LOADER.replace('</script>', '')),
    });
    const url = 'https://count.example/k.js';
    const made = { url, stack: calls('c') };
    const scripts = [seenScript('c', { url: crate.url }), seenScript('1', { url }), seenScript('2', { url })];
    const runs = (initiator: LoadEvidence['requests'][number]['initiator'], tags: LoadEvidence['tags']) => {
      const { attribution: found } = opened(two, {
        ...{ html, scripts, tags },
        requests: [crate, request(url, { initiator })],
      });
      return ['1', '2'].map((id) => words(found.ofScript(id)));
    };
    const byPage = tag(COUNTER.replace('</script>', ''));
    expect(runs(byPage, [made])).to.deep.equal(['counter via k.js', 'crate via c.js, k.js']);
    // The container was quicker, and the element in the page waited for what it had asked for.
    expect(runs({ by: 'script', stack: calls('c') }, [made])).to.deep.equal([
      'crate via c.js, k.js',
      'counter via k.js',
    ]);
    // Its element is gone: nobody knows.
    expect(runs(byPage, [])).to.deep.equal(['counter via k.js', 'unknown']);
  });

  it('is never that of what only carries a part into the page', () => {
    const line = request('https://code.example/one/s.js', {
      initiator: { by: 'parser', url: PAGE_URL, stack: [] },
    });
    const release = request('https://code.example/one/s/0123456789abcdef0123.js', {
      initiator: { by: 'script', stack: calls('l') },
    });
    const carried = request('https://crate.example/c.js', { initiator: { by: 'script', stack: calls('r') } });
    const stranger = request('https://other.example/x.js', {
      initiator: { by: 'script', stack: calls('r') },
    });
    const { attribution: found, ...own } = opened(
      { ...snapshot, site: { ...snapshot.site, key: 's' } },
      {
        html: HTML,
        requests: [line, release, carried, stranger],
        scripts: [
          seenScript('l', { url: line.url }),
          seenScript('r', { url: release.url }),
          seenScript('m', { source: 'try{(()=>{})()(1)}catch(e){}', stack: [] }),
          seenScript('i', { source: 'window.tide = ["start"]', stack: calls('r') }),
          seenScript('g', { source: 'document.pgmIf([[]],[0])' }),
        ],
      },
    );
    expect(own.load.requests.map((one) => words(found.ofRequest(one)))).to.deep.equal([
      'page',
      'page',
      'crate',
      'unknown',
    ]);
    expect(['l', 'r', 'g', 'm'].map((id) => found.isCarrier(id))).to.deep.equal([true, true, true, false]);
    expect(words(found.ofScript('i'))).to.equal('tide');
    expect(words(found.ofElement({ ...element('#x'), stack: calls('r') }))).to.equal('unknown');
  });

  it('goes through the files that files load', () => {
    const crate = request('https://crate.example/c.js', {
      initiator: byTag(LOADER.replace('</script>', '')),
    });
    const counter = request('https://count.example/k.js', { initiator: { by: 'script', stack: calls('c') } });
    const hit = request('https://count.example/hit', {
      kind: 'image',
      initiator: { by: 'script', stack: calls('k') },
    });
    const found = attribution({
      requests: [crate, counter, hit],
      scripts: [seenScript('c', { url: crate.url }), seenScript('k', { url: counter.url })],
    });
    expect(words(found.ofRequest(hit))).to.equal('crate via c.js, k.js');
    expect(words(found.ofStack(calls('k')))).to.equal('crate via c.js, k.js');
  });

  it('is of what a frame was opened by, for all that the frame asks for', () => {
    const frame = request('https://slot.example/book', {
      kind: 'document',
      frame: 'f',
      initiator: { by: 'script', stack: calls('t') },
    });
    const picture = request('https://slot.example/p.png', {
      kind: 'image',
      frame: 'f',
      initiator: { by: 'parser', url: frame.url, line: 1, column: 1, stack: [] },
    });
    const found = attribution({
      requests: [frame, picture],
      scripts: [seenScript('t', { source: 'window.tide = ["start"]' })],
    });
    expect(words(found.ofRequest(picture))).to.equal('tide via book');
  });

  it('follows redirects, and ends where files go round in a circle', () => {
    const first = request('https://crate.example/a', {
      id: '7:1',
      redirect: 'https://crate.example/b',
      initiator: byTag(LOADER.replace('</script>', '')),
    });
    const second = request('https://crate.example/b', { id: '7' });
    expect(words(attribution({ requests: [first, second] }).ofRequest(second))).to.equal('crate');
    const a = request('https://z.example/a.js', { initiator: { by: 'script', stack: calls('b') } });
    const b = request('https://z.example/b.js', { initiator: { by: 'script', stack: calls('a') } });
    const circle = attribution({
      requests: [a, b],
      scripts: [seenScript('a', { url: a.url }), seenScript('b', { url: b.url })],
    });
    expect(words(circle.ofRequest(a))).to.equal('unknown');
  });

  it('is the second run’s caller where a browser did not ask for a file again', () => {
    const file = request('https://count.example/k.js', { initiator: byTag('<script src="/own.js">') });
    const found = attribution({
      requests: [
        file,
        request('https://count.example/hit', {
          kind: 'image',
          initiator: { by: 'script', stack: calls('k2', 't') },
        }),
      ],
      scripts: [
        seenScript('k1', { url: file.url }),
        seenScript('k2', { url: file.url }),
        seenScript('t', { source: 'window.tide = ["start"]' }),
      ],
    });
    expect([words(found.ofScript('k1')), words(found.ofScript('k2'))]).to.deep.equal([
      'page via k.js',
      'tide via k.js',
    ]);
  });

  it('is the caller’s where one snippet builds on another', () => {
    const library = set(
      snippet('lib', { parts: [part('head-end', 0, '<script>function tide(e) { return e.x }</script>')] }),
      snippet('event', { parts: [part('head-end', 1, '<script>tide(null)</script>')] }),
    );
    const { attribution: found } = opened(library, {
      scripts: [
        seenScript('lib', { source: 'function tide(e) { return e.x }' }),
        seenScript('event', { source: 'tide(null)' }),
      ],
    });
    expect(words(found.ofStack(calls('lib', 'event')))).to.equal('event');
    expect(words(found.ofStack(calls('lib')))).to.equal('lib');
  });

  it('is the page’s for what came with it, and the part’s for what was asked about', () => {
    const { ownerOf } = opened(snapshot, {}, new Map([['#place', 'tide/1']]));
    expect(words(ownerOf(element('#own')))).to.equal('page');
    expect(words(ownerOf(element('#place', { probes: ['#place'] })))).to.equal('tide');
  });

  it('is whose request it was for cookies of an answer, and the caller’s for others', () => {
    const crate = request('https://crate.example/c.js', {
      initiator: byTag(LOADER.replace('</script>', '')),
    });
    const found = attribution({
      requests: [crate],
      scripts: [seenScript('t', { source: 'window.tide = ["start"]' })],
    });
    const write = { where: 'cookie', key: 'k', atMs: 1 } as const;
    expect(words(found.ofWrite({ ...write, stack: [], request: crate.id }))).to.equal('crate');
    expect(words(found.ofWrite({ ...write, stack: calls('t') }))).to.equal('tide');
    expect(words(found.ofWrite({ ...write, stack: [] }))).to.equal('unknown');
  });

  it('is unknown where nothing tells, and guessed by nothing', () => {
    const stray = request('https://elsewhere.example/tide.js');
    expect(words(attribution({ requests: [stray] }).ofRequest(stray))).to.equal('unknown');
  });
});
