import { expect } from 'chai';
import { containmentProblem, uncontainedParts, type Placement } from '@pragmatica/core';
import { part, set, snippet } from '../support/sets.js';

const CONTAINED: readonly [Placement, string][] = [
  ['head-start', '<!-- a --><script>document.write("</body>")</script><noscript><img src=x></noscript>'],
  ['head-end', '<meta name=x><link rel=preload href=x as=script><style>p{}</style>\n<script>1</script>\n'],
  ['body-end', '<div><p>text<p>more</div><script>1</script>'],
  ['body-start', 'just text'],
  ['body-end', ''],
  [{ anchor: 'x', side: 'inside' }, '<form><input></form>'],
];

const UNCONTAINED: readonly [Placement, string, string][] = [
  ['head-start', '<div>visible</div>', 'ends-head'],
  ['head-end', 'text', 'ends-head'],
  ['body-end', '<script>alert(1)', 'swallows-page'],
  ['body-end', '<!-- not closed', 'swallows-page'],
  ['body-start', '<a href="x', 'swallows-page'],
  ['body-end', '</div></section></main>', 'changes-page'],
  ['body-end', '<div>', 'changes-page'],
  ['body-start', '<b>bold', 'changes-page'],
  ['body-end', '<body class="mine">', 'changes-page'],
  ['head-end', '<script>1</script></head>', 'changes-page'],
];

describe('containment', () => {
  for (const [placement, code] of CONTAINED) {
    it(`lets ${JSON.stringify(code)} stand at ${JSON.stringify(placement)}`, () =>
      expect(containmentProblem(code, placement)).to.equal(undefined));
  }

  for (const [placement, code, problem] of UNCONTAINED) {
    it(`finds that ${JSON.stringify(code)} at ${JSON.stringify(placement)} ${problem}`, () => {
      const found = containmentProblem(code, placement);
      expect(found?.problem).to.equal(problem);
      expect(found?.message).to.match(/browser|page/);
    });
  }

  it('looks only at snippets that are on', () => {
    const broken = { parts: [part('body-end'), part('body-end', 1, '<div>')] };
    const found = uncontainedParts(set(snippet('a', broken), snippet('b', { ...broken, state: 'off' })));
    expect(found.map((entry) => entry.part)).to.deep.equal(['a/2']);
  });
});
