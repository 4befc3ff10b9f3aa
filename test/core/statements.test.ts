import { placementOfStatement } from '@pragmatica/core';
import { expect } from 'chai';
import { STATEMENTS } from '../corpus/statements.js';

describe('where a provider’s sentence puts its code', () => {
  for (const [statement, placement] of STATEMENTS)
    it(`“${statement}” ${placement === undefined ? 'leaves it open' : `is ${placement}`}`, () => {
      expect(placementOfStatement(statement)).to.equal(placement);
    });

  it('is worked out in linear time', () => {
    const started = performance.now();
    for (const piece of ['head ', 'the end of the ', 'as high in ', '<head', 'closing ', ', before ', "'s "])
      placementOfStatement(piece.repeat(20_000));
    expect(performance.now() - started).to.be.lessThan(2_000);
  });
});
