import { createHash } from 'node:crypto';
import { expect } from 'chai';
import fc from 'fast-check';
import {
  CHAIN_START,
  ChainReader,
  entryDigest,
  nextLink,
  type ChainHead,
  type CheckedChain,
  type TrailEntry,
  type TrailLink,
} from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';

/** RFC 8785 for what has no numbers: keys sorted by UTF-16 code units, strings as JSON writes them. */
const canonical = (value: unknown): string => {
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return `{${entries.map(([key, one]) => `${JSON.stringify(key)}:${canonical(one)}`).join(',')}}`;
};
const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');

const entry = (message: string, more: Partial<TrailEntry> = {}): TrailEntry => ({
  at: '2026-12-01T10:00:00.000Z',
  by: 'admin',
  token: null,
  address: '127.0.0.1',
  site: 'mill',
  action: 'snippet.edit',
  message,
  changes: [{ kind: 'snippet', key: 'chat', before: { note: '' }, after: { note: 'ä\u2028<' } }],
  ...more,
});

interface Row {
  readonly link: TrailLink;
  readonly entry: TrailEntry | undefined;
}

function chainOf(entries: readonly TrailEntry[]): Row[] {
  let hash = CHAIN_START;
  return entries.map((one, index) => {
    const link = nextLink(hash, { number: index + 1, at: one.at, digest: entryDigest(one) });
    hash = link.hash;
    return { link, entry: one };
  });
}

function check(rows: readonly Row[], keptSince?: string, expected?: ChainHead): CheckedChain {
  const reader = new ChainReader(keptSince, expected);
  for (const { link, entry: one } of rows) reader.read(link, one);
  return reader.finish();
}

const faultsOf = (rows: readonly Row[], keptSince?: string, expected?: ChainHead) =>
  check(rows, keptSince, expected).problems.map(({ number, fault }) => `${number} ${fault}`);

const THREE = ['one', 'two', 'three'].map((message) => entry(message));
const CHAIN = chainOf(THREE);

describe('the chain over the trail', () => {
  it('is SHA-256 over canonical JSON and the link before, as anybody can compute it', () => {
    const digest = sha256(canonical(THREE[0]));
    expect(entryDigest(THREE[0]!)).to.equal(digest);
    const first = sha256(`${'0'.repeat(64)}\n1\n${THREE[0]!.at}\n${digest}`);
    expect(CHAIN[0]!.link).to.deep.equal({ number: 1, at: THREE[0]!.at, digest, hash: first });
    const second = sha256(`${first}\n2\n${THREE[1]!.at}\n${entryDigest(THREE[1]!)}`);
    expect(CHAIN[1]!.link.hash).to.equal(second);
  });

  it('is whole as it was written', () => {
    expect(check(CHAIN)).to.deep.equal({
      links: 3,
      entries: 3,
      faults: 0,
      problems: [],
      head: { number: 3, hash: CHAIN[2]!.link.hash },
    });
  });

  for (const [field, value] of Object.entries({
    at: '2026-12-01T10:00:01.000Z',
    by: 'fionn',
    token: 'pipeline',
    address: null,
    site: null,
    action: 'publish',
    message: 'nothing',
    changes: [],
  }))
    it(`tells that somebody changed "${field}" of an entry`, () => {
      const rows = CHAIN.map((row, index) =>
        index === 1 ? { ...row, entry: { ...row.entry!, [field]: value } } : row,
      );
      expect(faultsOf(rows)).to.deep.equal(['2 entry']);
    });

  it('tells that an entry was put in another’s place, with a link to fit', () => {
    const forged = entry('two and a half');
    const link = nextLink(CHAIN[0]!.link.hash, { number: 2, at: forged.at, digest: entryDigest(forged) });
    expect(faultsOf([CHAIN[0]!, { link, entry: forged }, CHAIN[2]!])).to.deep.equal(['3 link']);
  });

  it('tells a link that is gone, and one that was taken off the end by the head that was kept', () => {
    expect(faultsOf([CHAIN[0]!, CHAIN[2]!])).to.deep.equal(['3 gap']);
    const head = { number: 3, hash: CHAIN[2]!.link.hash };
    expect(faultsOf(CHAIN, undefined, head)).to.deep.equal([]);
    expect(faultsOf(CHAIN.slice(0, 2), undefined, head)).to.deep.equal(['3 head']);
    expect(faultsOf(chainOf([...THREE.slice(0, 2), entry('else')]), undefined, head)).to.deep.equal([
      '3 head',
    ]);
    expect(faultsOf([], undefined, { number: 0, hash: CHAIN_START })).to.deep.equal([]);
  });

  it('lets entries go that are too old to be kept, and no others', () => {
    const old = chainOf([entry('old', { at: '2025-01-01T00:00:00.000Z' }), ...THREE]);
    const gone = old.map((row, index) => (index === 0 ? { ...row, entry: undefined } : row));
    expect(check(gone, '2026-01-01T00:00:00.000Z')).to.include({ links: 4, entries: 3, faults: 0 });
    expect(faultsOf(gone)).to.deep.equal(['1 missing']);
    const young = old.map((row, index) => (index === 2 ? { ...row, entry: undefined } : row));
    expect(faultsOf(young, '2026-01-01T00:00:00.000Z')).to.deep.equal(['3 missing']);
  });

  it('finds any one change of any one thing', () => {
    const messages = fc.array(fc.string({ maxLength: 20 }), { minLength: 2, maxLength: 8 });
    fc.assert(
      fc.property(messages, fc.nat(), fc.constantFrom('digest', 'hash', 'message'), (said, at, what) => {
        const rows = chainOf(said.map((message) => entry(message)));
        const index = at % rows.length;
        const row = rows[index]!;
        const other = sha256(JSON.stringify(row.link));
        rows[index] =
          what === 'message'
            ? { ...row, entry: { ...row.entry!, message: `${row.entry!.message}.` } }
            : { ...row, link: { ...row.link, [what]: other } };
        const { faults, head } = check(rows);
        expect(faults, 'told at least once').to.be.above(0);
        expect(head.number).to.equal(rows.length);
      }),
      propertyRuns(200),
    );
  });

  it('counts more faults than it tells', () => {
    const rows = chainOf(Array.from({ length: 60 }, (_, index) => entry(String(index))));
    const all = rows.map((row) => ({ ...row, entry: entry('another') }));
    const { faults, problems } = check(all);
    expect(faults).to.equal(60);
    expect(problems).to.have.length(20);
  });
});
