import { keptCopies, type KeepRule } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../../support/property-runs.js';

const at = (text: string): Date => new Date(`${text}Z`);
const kept = (moments: readonly string[], rule: Partial<KeepRule>, zone = 'UTC'): string[] => {
  const places = keptCopies(moments.map(at), { days: 0, weeks: 0, months: 0, ...rule }, zone);
  return moments.filter((_, place) => places.has(place));
};

describe('which copies are kept', () => {
  it('the last one of each day that has one', () => {
    const moments = ['2026-11-28T03:00', '2026-11-28T09:00', '2026-11-30T03:00', '2026-12-01T03:00'];
    expect(kept(moments, { days: 2 })).to.deep.equal(['2026-11-30T03:00', '2026-12-01T03:00']);
    expect(kept(moments, { days: 3 })).to.deep.equal([
      '2026-11-28T09:00',
      '2026-11-30T03:00',
      '2026-12-01T03:00',
    ]);
  });

  it('of each week from Monday, and of each month, across a turn of the year', () => {
    const days = ['2026-12-27', '2026-12-28', '2027-01-03', '2027-01-04'].map((day) => `${day}T12:00`);
    // Sunday, Monday to Sunday, Monday.
    expect(kept(days, { weeks: 3 })).to.deep.equal([days[0], days[2], days[3]]);
    expect(kept(days, { months: 2 })).to.deep.equal([days[1], days[3]]);
  });

  it('by the clocks of the zone', () => {
    const moments = ['2026-12-01T22:30', '2026-12-01T23:30'];
    expect(kept(moments, { days: 5 })).to.deep.equal(['2026-12-01T23:30']);
    expect(kept(moments, { days: 5 }, 'Europe/Berlin')).to.deep.equal(moments);
  });

  it('the newest, whatever the rule', () => {
    expect(kept(['2026-12-02T00:00', '2026-12-01T00:00'], {})).to.deep.equal(['2026-12-02T00:00']);
    expect(kept([], { days: 7 })).to.deep.equal([]);
  });

  it('none goes by because nothing was made for long', () => {
    const old = ['2025-01-01T00:00', '2025-01-02T00:00', '2025-01-03T00:00'];
    expect(kept([...old, '2026-12-01T00:00'], { days: 4 })).to.have.length(4);
  });

  const rules = fc.record({
    days: fc.integer({ min: 0, max: 8 }),
    weeks: fc.integer({ min: 0, max: 5 }),
    months: fc.integer({ min: 0, max: 5 }),
  });
  const lists = fc.array(
    fc.date({ min: at('2024-01-01T00:00'), max: at('2026-12-01T00:00'), noInvalidDate: true }),
    { maxLength: 60 },
  );
  const zones = fc.constantFrom('UTC', 'Pacific/Apia', 'America/New_York');

  it('holds its bounds, and what stays once stays again', () => {
    fc.assert(
      fc.property(lists, rules, zones, (moments, rule, zone) => {
        const stay = moments.filter((_, place) => keptCopies(moments, rule, zone).has(place));
        expect(stay.length).to.be.at.most(Math.max(1, rule.days + rule.weeks + rule.months));
        if (moments.length > 0)
          expect(Math.max(...stay.map(Number))).to.equal(Math.max(...moments.map(Number)));
        expect(keptCopies(stay, rule, zone).size).to.equal(stay.length);
      }),
      propertyRuns(200),
    );
  });

  it('removing day by day leaves what removing at the end would', () => {
    const sorted = fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 40 });
    fc.assert(
      fc.property(sorted, rules, (gaps, rule) => {
        let hour = 0;
        const moments = gaps.map(
          (gap) => new Date(at('2026-01-01T00:00').getTime() + (hour += gap) * 3_600_000),
        );
        let held: Date[] = [];
        for (const moment of moments) {
          held.push(moment);
          const places = keptCopies(held, rule, 'UTC');
          held = held.filter((_, place) => places.has(place));
        }
        const atOnce = keptCopies(moments, rule, 'UTC');
        expect(held).to.deep.equal(moments.filter((_, place) => atOnce.has(place)));
      }),
      propertyRuns(200),
    );
  });
});
