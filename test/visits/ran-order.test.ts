import { expect } from 'chai';
import { ranOrder } from '@pragmatica/core';
import { opened, PAGE_URL, placeBehind, request, seenScript } from '../support/evidence.js';
import { part, set, snippet } from '../support/sets.js';
import { beacon, script, visitedSite, type VisitedSite } from '../support/visited-site.js';

describe('what ran, in order', () => {
  it('names whose each script is, and takes together what ran of one owner', () => {
    const early = '<script>window.early=1</script>';
    const late = '<script async src="http://tidecount.localhost/c.js"></script>';
    const html = `<!doctype html><head><script>own()</script>${early}${late}</head>`;
    const at = (text: string) => ({ ...placeBehind(html, text), source: text });
    const file = request('http://tidecount.localhost/c.js', {
      initiator: { by: 'parser', url: PAGE_URL, ...placeBehind(html, '<script async'), stack: [] },
    });
    const found = opened(
      set(
        snippet('early', { parts: [part('head-end', 0, early)] }),
        snippet('count', { parts: [part('head-end', 1, late)] }),
      ),
      {
        html,
        requests: [file],
        scripts: [
          seenScript('1', { ...placeBehind(html, '<script>'), source: 'own()' }),
          seenScript('2', { ...at('<script>own()</script><script>'), source: 'window.early=1' }),
          seenScript('3', { url: file.url }),
          seenScript('4', {
            url: '',
            source: 'x',
            stack: [{ script: '3', url: file.url, line: 0, column: 0 }],
          }),
          seenScript('5', {
            url: '',
            source: 'y',
            stack: [{ script: '3', url: file.url, line: 0, column: 0 }],
          }),
        ],
      },
    );
    expect(
      ranOrder(found.load, found).map(({ snippet: key, file: from, count }) => [key, from, count]),
    ).to.deep.equal([
      [null, null, 1],
      ['early', null, 1],
      ['count', file.url, 1],
      ['count', null, 2],
    ]);
  });

  it('is bounded, whatever a page makes', () => {
    const scripts = Array.from({ length: 500 }, (_, index) =>
      seenScript(String(index), { url: `http://a.example/${index}.js` }),
    );
    const found = opened(set(), { scripts });
    expect(ranOrder(found.load, found)).to.have.length(60);
  });
});

describe('what ran in a real browser', function () {
  this.timeout(60_000);
  let site: VisitedSite;

  before(async () => {
    site = await visitedSite();
  });
  after(() => site.close());

  it('is another order than the page’s where a file loads on the side', async () => {
    site.answers = {
      'slow.localhost/s.js': (incoming, response) => {
        setTimeout(() => script('window.slow=1')(incoming, response), 400);
      },
      'plain.localhost/p.js': script('window.plain=1'),
      'plain.localhost/hit': beacon,
    };
    const { judged } = await site.visit({
      snippets: [
        { key: 'slow', code: '<script async src="http://slow.localhost:PORT/s.js"></script>' },
        { key: 'plain', code: '<script src="http://plain.localhost:PORT/p.js"></script>' },
        { key: 'inline', code: '<script>window.inline=1</script>', at: 'body-end' },
      ],
    });
    const order = judged[0]!.ran!.map(({ snippet: key }) => key);
    expect(order).to.deep.equal(['plain', 'inline', 'slow']);
    expect(judged[0]!.ran![0]!.file).to.match(/plain\.localhost:\d+\/p\.js$/);
    expect(judged[0]!.ran![1]!.file).to.equal(null);
  });
});
