import { alterations } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';

const written = (ours: string, theirs: string): string =>
  alterations(ours, theirs)
    .map(({ kind, text }) => (kind === 'same' ? text : kind === 'gone' ? `[-${text}-]` : `{+${text}+}`))
    .join('');

describe('what was changed in a code on the way', () => {
  it('is told to the character', () => {
    expect(written('<script src="/a.js"></script>', '<script defer src="/a.js"></script>')).to.equal(
      '<script {+defer +}src="/a.js"></script>',
    );
    expect(written('count("TM-7731")', 'count("TM-7732")')).to.equal('count("TM-773[-1-]{+2+}")');
    expect(written('<script async src="a.js">', '<script defer type="text/later" src="a.js">')).to.equal(
      '<script [-async-]{+defer+} {+type="text/later" +}src="a.js">',
    );
  });

  it('is told by whole words where these are others, and as a whole where nearly all is', () => {
    expect(written('one two', 'other two')).to.equal('[-one-]{+other+} two');
    const [a, b] = ['a b '.repeat(5_000), 'c d '.repeat(5_000)];
    expect(alterations(a, b)).to.have.length(2);
  });

  it('gives both codes back, whatever they are', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (ours, theirs) => {
        const runs = alterations(ours, theirs);
        const without = (kind: string) => runs.flatMap((run) => (run.kind === kind ? [] : run.text)).join('');
        expect([without('new'), without('gone')]).to.deep.equal([ours, theirs]);
      }),
    );
  });
});
