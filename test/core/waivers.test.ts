import {
  CHECKS,
  countFindings,
  exampleKnowledge,
  exampleSet,
  isWaivable,
  newFindings,
  runChecks,
  applyWaivers,
  type ExampleSnippet,
  type Finding,
  type Waiver,
} from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../support/property-runs.js';

const SHARE = '<script async src="http://sharebuoy.example/share.js"></script>';
const share = (code: string, more: Partial<ExampleSnippet> = {}): ExampleSnippet => ({
  name: 'Share',
  parts: [{ placement: 'body-end', code }],
  ...more,
});
const find = (...snippets: ExampleSnippet[]): Finding[] => runChecks(exampleSet(snippets));

function waiverFor(finding: Finding, more: Partial<Waiver> = {}): Waiver {
  const { id, fingerprint } = finding;
  return { finding: id, fingerprint, reason: 'no https yet', author: 'ona', until: '2027-03-31', ...more };
}

describe('waivers', () => {
  const [found] = find(share(SHARE));

  it('hold to the end of their last day', () => {
    const waiver = waiverFor(found!);
    for (const [day, isOpen] of [
      ['2026-01-01', false],
      ['2027-03-31', false],
      ['2027-04-01', true],
    ] as const) {
      const { open, waived } = applyWaivers([found!], [waiver], day);
      expect([open.length, waived.length], day).to.deep.equal(isOpen ? [1, 0] : [0, 1]);
      if (isOpen) expect(open[0]!.lapsed).to.deep.equal({ waiver, cause: 'ended' });
      else expect(waived[0]!.waiver).to.equal(waiver);
    }
  });

  const later = (code: string, more: Partial<ExampleSnippet> = {}, ...others: ExampleSnippet[]) =>
    applyWaivers(
      find(...others, share(code, more)).filter(({ check }) => check === found!.check),
      [waiverFor(found!)],
      '2026-01-01',
    );

  const UNRELATED: readonly [what: string, weighed: () => ReturnType<typeof applyWaivers>][] = [
    ['a new name', () => later(SHARE, { name: 'Share' })],
    ['code above it', () => later(`<!-- from the provider -->\n\n${SHARE}`)],
    ['code behind it', () => later(`${SHARE}\n<style>p { color: navy }</style>`)],
    ['other pages', () => later(SHARE, { include: ['/fares'] })],
    [
      'another snippet before it',
      () =>
        later(SHARE, {}, { name: 'Other', parts: [{ placement: 'head-start', code: '<meta name="a">' }] }),
    ],
  ];
  for (const [what, weighed] of UNRELATED)
    it(`follow their finding over ${what}`, () => {
      const { open, waived } = weighed();
      expect([open.length, waived.length]).to.deep.equal([0, 1]);
    });

  it('end when the code that shows the finding changes', () => {
    const { open } = later(SHARE.replace('async', 'defer'));
    expect(open[0]!.lapsed!.cause).to.equal('changed');
  });

  it('end when the finding gets worse', () => {
    const worse: Finding = { ...found!, severity: 'error', fingerprint: 'another' };
    expect(applyWaivers([worse], [waiverFor(found!)], '2026-01-01').open[0]!.lapsed!.cause).to.equal(
      'changed',
    );
  });

  it('never hold for code that changes the page around it', () => {
    const [open] = find({ name: 'Box', parts: [{ placement: 'body-end', code: '<div>open' }] });
    expect(isWaivable(open!)).to.equal(false);
    expect(applyWaivers([open!], [waiverFor(open!)], '2026-01-01').waived).to.deep.equal([]);
  });

  it('part findings without losing or doubling one, whatever was accepted', () => {
    const all = CHECKS.flatMap((check) =>
      runChecks(
        exampleSet(check.wrong, check.consent),
        exampleKnowledge(check, exampleSet(check.wrong, check.consent)),
      ),
    );
    fc.assert(
      fc.property(
        fc.subarray(all),
        fc.constantFrom('2026-01-01', '2027-03-31', '2028-01-01'),
        (accepted, today) => {
          const { open, waived } = applyWaivers(
            all,
            accepted.map((finding) => waiverFor(finding)),
            today,
          );
          expect(open.length + waived.length).to.equal(all.length);
          for (const { id } of waived) expect(accepted.some((finding) => finding.id === id)).to.equal(true);
          for (const { lapsed } of open) if (lapsed) expect(lapsed.waiver.until < today).to.equal(true);
        },
      ),
      propertyRuns(50),
    );
  });
});

describe('what is new in a set', () => {
  const before = find(share(SHARE));

  it('is nothing when nothing has changed', () => expect(newFindings(before, before)).to.deep.equal([]));

  it('is a finding that was not there, or that shows something else', () => {
    const other = find(share(SHARE), { ...share(SHARE.replace('share.js', 'more.js')), name: 'More' });
    expect(newFindings(other, before).map(({ subjects }) => subjects[0]!.snippet)).to.deep.equal(['more']);
    expect(newFindings(find(share(SHARE.replace('async', 'defer'))), before)).to.have.length(1);
  });

  it('is counted by severity', () => {
    expect(countFindings([])).to.deep.equal({ error: 0, warning: 0, advice: 0 });
    expect(countFindings(before)).to.deep.equal({ error: 0, warning: 1, advice: 0 });
  });
});
