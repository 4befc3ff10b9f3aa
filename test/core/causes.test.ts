import { expect } from 'chai';
import { applyFix, fixAll, runChecks, type Finding } from '@pragmatica/core';
import { CAUSE_KINDS, siteOf, type Cause } from '../corpus/causes/index.js';

const said = (found: readonly Finding[]): string[] =>
  found.map(({ check, severity, title }) => `${check} (${severity}): ${title}`);
const serious = (found: readonly Finding[]): Finding[] =>
  found.filter(({ severity }) => severity !== 'advice');

function names({ check, about, says = /./ }: Cause, finding: Finding): boolean {
  return (
    finding.check === check &&
    about.every((name) => finding.subjects.some((subject) => subject.name === name)) &&
    says.test(`${finding.title}\n${finding.advice}`)
  );
}

describe('causes', () => {
  for (const { kind, wrong, clean } of CAUSE_KINDS) {
    describe(kind, () => {
      for (const cause of wrong) {
        it(`names it where ${cause.name}, and nothing else`, () => {
          const { set, knowledge } = siteOf(cause);
          const found = runChecks(set, knowledge);
          expect(
            found.some((finding) => names(cause, finding)),
            said(found).join('\n') || 'nothing was found',
          ).to.equal(true);
          const others = serious(found).filter(
            ({ check }) => check !== cause.check && !(cause.also ?? []).includes(check),
          );
          expect(said(others)).to.deep.equal([]);
          const same = serious(found.filter(({ check }) => check === cause.check));
          if (cause.also?.includes(cause.check) !== true) expect(said(same)).to.have.length.at.most(1);
        });

        it(`makes nothing worse by fixing it where ${cause.name}`, () => {
          const { set, knowledge } = siteOf(cause);
          const before = runChecks(set, knowledge);
          const known = new Set(before.map(({ id }) => id));
          for (const { id, fix } of before) {
            if (!fix) continue;
            const after = runChecks(applyFix(set, fix), knowledge);
            expect(after.map((finding) => finding.id)).not.to.include(id);
            expect(said(serious(after).filter((finding) => !known.has(finding.id)))).to.deep.equal([]);
          }
          const { left } = fixAll(set, knowledge);
          expect(said(serious(left).filter(({ id }) => !known.has(id)))).to.deep.equal([]);
        });
      }

      for (const site of clean) {
        it(`finds nothing wrong where ${site.name}`, () => {
          const { set, knowledge } = siteOf(site);
          expect(said(serious(runChecks(set, knowledge)))).to.deep.equal([]);
        });
      }
    });
  }
});
