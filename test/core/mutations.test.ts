import { expect } from 'chai';
import { CHECKS, applyFix, exampleSet, fixAll, newFindings, runChecks, type Finding } from '@pragmatica/core';
import { GOOD, GOOD_SETS, MUTATIONS, SITE } from '../corpus/sets.js';

const event = ({ check, severity, title }: Finding): string => `${check} (${severity}): ${title}`;

describe('checks, held against whole sets', () => {
  describe('find nothing wrong in', () => {
    for (const [name, snippets] of Object.entries(GOOD_SETS))
      it(name, () => {
        const found = runChecks(exampleSet(snippets), SITE).filter(({ severity }) => severity !== 'advice');
        expect(found.map(event)).to.deep.equal([]);
      });
  });

  it('have a mistake each that they must see', () => {
    expect(Object.keys(MUTATIONS).sort()).to.deep.equal(CHECKS.map(({ id }) => id).sort());
  });

  const before = runChecks(exampleSet(GOOD), SITE);
  for (const [id, { make, more = [], known = {}, consent }] of Object.entries(MUTATIONS))
    describe(`${id}, when somebody makes its mistake`, () => {
      const site = { ...SITE, ...known };
      const set = exampleSet(make(GOOD), consent);
      const found = newFindings(runChecks(set, site), before);

      it('is found, and nothing else', () => {
        const others = found.filter(({ check }) => check !== id && !more.includes(check));
        expect(others.map(event)).to.deep.equal([]);
        expect(found.some(({ check }) => check === id)).to.equal(true);
      });

      it('is found the same, in the same words, however often one looks', () => {
        expect(newFindings(runChecks(set, site), before)).to.deep.equal(found);
      });

      it('is gone after its fix, which breaks nothing else', () => {
        for (const finding of found) {
          if (!finding.fix) continue;
          const after = runChecks(applyFix(set, finding.fix), site);
          expect(after.map(({ id: one }) => one)).not.to.include(finding.id);
          const worse = newFindings(after, [...before, ...found]).filter(
            ({ severity }) => severity === 'error',
          );
          expect(worse.map(event)).to.deep.equal([]);
        }
        const { snapshot } = fixAll(set, site);
        expect(runChecks(snapshot, site).filter(({ fix }) => fix)).to.deep.equal([]);
      });
    });
});
