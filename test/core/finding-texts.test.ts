import { expect } from 'chai';
import {
  CHECKS,
  exampleKnowledge,
  exampleSet,
  readerLocale,
  runChecks,
  unfinishedFinding,
  wordFinding,
  type Finding,
} from '@pragmatica/core';
import { CAUSE_KINDS, findingsOfSite } from '../corpus/causes/index.js';
import { GOOD, MUTATIONS, SITE } from '../corpus/sets.js';
import { VARIANTS, type Variant } from '../corpus/variants.js';

const idOf = ({ check, message }: Finding): string => `${check}.${message.id}`;

function findingsOf({ set, fields, noConsent, known }: Variant): Finding[] {
  const { site, ...rest } = exampleSet(set);
  const { consent, ...withoutConsent } = site;
  const own = {
    ...withoutConsent,
    ...(consent && !noConsent ? { consent } : {}),
    ...(fields ? { fields } : {}),
  };
  return runChecks({ ...rest, site: own }, { ...exampleKnowledge({}), ...known });
}

/** What is said where something is wrong: in examples, in whole sets with a mistake, in the variants. */
const said: readonly Finding[] = [
  ...CHECKS.flatMap((check) =>
    runChecks(
      exampleSet(check.wrong, check.consent),
      exampleKnowledge(check, exampleSet(check.wrong, check.consent)),
    ),
  ),
  ...Object.values(MUTATIONS).flatMap(({ make, known, consent }) =>
    runChecks(exampleSet(make(GOOD), consent), { ...SITE, ...known }),
  ),
  ...Object.values(VARIANTS).flatMap(findingsOf),
  ...CAUSE_KINDS.flatMap(({ wrong }) => wrong.flatMap(findingsOfSite)),
  unfinishedFinding(exampleSet(GOOD)),
];

describe('what findings say', () => {
  for (const [id, variant] of Object.entries(VARIANTS))
    it(`${id}: ${variant.title}`, () => {
      const titles = findingsOf(variant)
        .filter((finding) => idOf(finding) === id.trim())
        .map(({ title }) => title);
      expect(titles[0]).to.equal(variant.title);
    });

  it('is each message of each check somewhere: none is dead, none was never read', () => {
    const all = CHECKS.flatMap(({ id, messages }) => Object.keys(messages).map((name) => `${id}.${name}`));
    const heard = new Set(said.map(idOf));
    expect(all.filter((id) => !heard.has(id))).to.deep.equal([]);
  });

  it('shows each role of evidence somewhere', () => {
    const all = CHECKS.flatMap(({ id, roles }) => Object.keys(roles).map((role) => `${id}.${role}`));
    const heard = new Set(
      said.flatMap(({ check, evidence }) => evidence.map(({ role }) => `${check}.${role}`)),
    );
    expect(all.filter((id) => !heard.has(id))).to.deep.equal([]);
  });

  it('leaves no parameter open and no sentence empty', () => {
    for (const { title, advice, evidence, fix } of said)
      for (const text of [title, advice, ...evidence.map(({ note }) => note), fix?.title ?? 'Fix.']) {
        expect(text).to.match(/\S/);
        expect(text).not.to.match(/\{[a-z]+\}(?!”)|undefined|NaN|\[object/i);
      }
  });

  it('comes out the same from id and parameters alone', () => {
    for (const { title: _1, why: _2, advice: _3, fix, evidence, ...rest } of said) {
      const bare = JSON.parse(
        JSON.stringify({
          ...rest,
          evidence: evidence.map(({ note: _4, ...spot }) => spot),
          ...(fix ? { fix: { changes: fix.changes } } : {}),
        }),
      ) as Parameters<typeof wordFinding>[0];
      const again = wordFinding(bare);
      expect(again.title).to.equal(_1);
      expect(again.advice).to.equal(_3);
      expect(again.evidence.map(({ note }) => note)).to.deep.equal(evidence.map(({ note }) => note));
      expect(again.fix?.title).to.equal(fix?.title);
    }
  });

  it('writes moments, numbers and lists as people do where the reader lives', () => {
    const closed = said.find(({ check }) => check === 'closed-now')!;
    expect(closed.advice).to.match(/^It opens Friday 09:00 \(UTC\)\./);
    expect(wordFinding(closed, 'en-US').advice).to.match(/^It opens Friday 9:00\sAM \(UTC\)\./);
    const heavy = {
      ...said.find(({ check }) => check === 'heavy-code')!,
      message: { id: 'heavy', params: { part: '“A”', kb: 12_000 } },
    };
    expect(wordFinding(heavy, 'en-DE').title).to.equal('“A” adds 12.000 KB to every page it runs on');
    expect(wordFinding(heavy).title).to.equal('“A” adds 12,000 KB to every page it runs on');
  });
});

describe('where a reader lives', () => {
  it('is told by the first language that has a region', () => {
    expect(readerLocale(['de-AT', 'en'])).to.equal('en-AT');
    expect(readerLocale(['fr'])).to.equal('en-FR');
    expect(readerLocale(['*', 'not a tag!', 'sv'])).to.equal('en-SE');
    expect(readerLocale([])).to.equal('en-GB');
    expect(readerLocale(['*'])).to.equal('en-GB');
  });
});
