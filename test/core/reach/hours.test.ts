import { expect } from 'chai';
import fc from 'fast-check';
import {
  calendarWeek,
  hoursAt,
  hoursMeeting,
  hoursOutside,
  hoursProblems,
  hoursWords,
  momentOf,
  momentWords,
  openIntervals,
  parseWeekly,
  zoneClock,
  type Hours,
} from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';

const ZONE = 'Europe/Dublin';
const clock = zoneClock(ZONE);
const at = (local: string): number => momentOf(local, ZONE);
const QUARTER = 15 * 60_000;

const isOpen = (hours: Hours, moment: number): boolean =>
  openIntervals(hours, clock, moment, moment + 1).some(([start, end]) => start <= moment && moment < end);

describe('opening hours', () => {
  const OFFICE: Hours = {
    weekly: parseWeekly('mon-fri 09:00-12:00 13:00-17:30, sat 22-02'),
    closed: ['12-25'],
    exceptions: [{ date: '2027-05-03', spans: [{ from: '10:00', to: '11:00' }] }],
    last: '2027-12-31',
  };

  it('are told in words', () => {
    expect(hoursWords(OFFICE)).to.equal(
      'Mon–Fri 09:00–12:00 and 13:00–17:30, Sat 22:00–02:00, closed on 25 December, 3 May 2027 10:00–11:00, until 31 December 2027',
    );
    expect(hoursWords({ weekly: {} })).to.equal('on no day of the week');
    expect(hoursWords({ weekly: parseWeekly('daily 00:00-24:00') })).to.equal('every day all day');
  });

  it('go by the clock of the site, over midnight and on days of their own', () => {
    for (const [local, open] of [
      ['2027-03-01T09:00', true],
      ['2027-03-01T12:00', false],
      ['2027-03-06T23:00', true],
      ['2027-03-07T01:59', true],
      ['2027-03-07T02:00', false],
      ['2027-05-03T09:30', false],
      ['2027-05-03T10:30', true],
      ['2027-12-31T09:00', true],
      ['2028-01-03T09:00', false],
    ] as const)
      expect(isOpen(OFFICE, at(local)), local).to.equal(open);
    // A Saturday: what began the evening before goes on into the day that is closed.
    const nights: Hours = { weekly: parseWeekly('daily 22:00-03:00'), closed: ['12-25'] };
    expect(isOpen(nights, at('2027-12-25T02:00'))).to.equal(true);
    expect(isOpen(nights, at('2027-12-25T23:00'))).to.equal(false);
    expect(isOpen(nights, at('2027-12-26T02:00'))).to.equal(false);
  });

  it('know when they open and close next', () => {
    const next = (local: string): string => {
      const now = at(local);
      const { isOpen: open, until } = hoursAt(OFFICE, clock, now);
      return `${open ? 'open' : 'closed'} until ${until === undefined ? 'ever' : momentWords(until, ZONE, now)}`;
    };
    expect(next('2027-03-01T10:00')).to.equal('open until today 12:00');
    expect(next('2027-03-01T18:00')).to.equal('closed until tomorrow 09:00');
    expect(next('2027-03-05T18:00')).to.equal('closed until tomorrow 22:00');
    expect(next('2027-03-07T10:00')).to.equal('closed until tomorrow 09:00');
    expect(next('2027-12-31T18:00')).to.equal('closed until ever');
    expect(hoursAt({ weekly: parseWeekly('daily 00:00-24:00') }, clock, at('2027-03-01'))).to.deep.equal({
      isOpen: true,
      until: undefined,
    });
    const far: Hours = {
      weekly: {},
      exceptions: [{ date: '2031-06-01', spans: [{ from: '08:00', to: '09:00' }] }],
    };
    expect(hoursAt(far, clock, at('2027-03-01')).until).to.equal(at('2031-06-01T08:00'));
  });

  it('are right on the days on which the clocks are changed', () => {
    // Dublin: on 2027-03-28 01:00 becomes 02:00, on 2027-10-31 02:00 becomes 01:00.
    const night: Hours = { weekly: parseWeekly('sun 00:30-03:00') };
    const lengths = ['2027-03-28', '2027-10-31', '2027-11-07'].map((day) => {
      const [[start, end] = [0, 0]] = openIntervals(night, clock, at(day), at(day) + 20_000_000);
      return (end - start) / 3_600_000;
    });
    expect(lengths).to.deep.equal([1.5, 3.5, 2.5]);
    const left: Hours = { weekly: parseWeekly('sun 01:15-01:45') };
    const [skipped] = openIntervals(left, clock, at('2027-03-28'), at('2027-03-29'));
    expect(new Date(skipped![0]).toISOString(), 'as much later').to.equal('2027-03-28T01:15:00.000Z');
    const [twice] = openIntervals(left, clock, at('2027-10-31'), at('2027-11-01'));
    expect(new Date(twice![0]).toISOString(), 'the first of both').to.equal('2027-10-31T00:15:00.000Z');
  });

  it('make a week’s picture', () => {
    const week = calendarWeek(OFFICE, clock, at('2027-05-05T10:00'));
    expect(
      week.map(({ weekday, on, rule }) => [weekday, rule, on.map(({ from, to }) => `${from}-${to}`).join()]),
    ).to.deep.equal([
      ['mon', 'exception', '10:00-11:00'],
      ['tue', 'weekly', '09:00-12:00,13:00-17:30'],
      ['wed', 'weekly', '09:00-12:00,13:00-17:30'],
      ['thu', 'weekly', '09:00-12:00,13:00-17:30'],
      ['fri', 'weekly', '09:00-12:00,13:00-17:30'],
      ['sat', 'weekly', '22:00-24:00'],
      ['sun', 'weekly', '00:00-02:00'],
    ]);
  });

  it('that make no sense are told, each at its place', () => {
    const problems = hoursProblems({
      weekly: {
        mon: [
          { from: '9:00', to: '10:00' },
          { from: '11:00', to: '11:00' },
        ],
        tue: [
          { from: '09:00', to: '12:00' },
          { from: '11:00', to: '13:00' },
        ],
      },
      closed: ['02-30'],
      exceptions: [{ date: '2027-02-29', spans: [] }],
      first: '2027-05-01',
      last: '2027-04-01',
    });
    expect(problems.map(({ path }) => path.join('/'))).to.deep.equal([
      'weekly/mon/0/from',
      'weekly/mon/1/to',
      'weekly/tue/1',
      'closed/0',
      'exceptions/0/date',
      'last',
    ]);
    expect(() => parseWeekly('09:00-17:00')).to.throw('on which days');
    expect(() => parseWeekly('mon someday')).to.throw('neither a day');
  });
});

describe('hours compared', () => {
  const time = fc
    .integer({ min: 0, max: 47 })
    .map((half) => `${String(Math.floor(half / 2)).padStart(2, '0')}:${half % 2 ? '30' : '00'}`);
  const spans = fc.array(
    fc.record({ from: time, to: time }).filter(({ from, to }) => from !== to),
    { maxLength: 2 },
  );
  // Around a change of the clocks.
  const date = fc
    .integer({ min: 0, max: 40 })
    .map((day) => new Date(Date.UTC(2027, 2, 10) + day * 86_400_000).toISOString().slice(0, 10));
  const hours: fc.Arbitrary<Hours> = fc.record(
    {
      weekly: fc.record({ mon: spans, wed: spans, sat: spans, sun: spans }, { requiredKeys: [] }),
      closed: fc.array(
        date.map((day) => day.slice(5)),
        { maxLength: 2 },
      ),
      exceptions: fc.uniqueArray(fc.record({ date, spans }), {
        maxLength: 2,
        selector: (entry) => entry.date,
      }),
      first: date,
      last: date,
    },
    { requiredKeys: [] },
  );

  it('meet and hold each other as every quarter of an hour says', () => {
    const from = at('2027-03-12');
    const to = at('2027-04-25');
    const counts = { met: 0, apart: 0 };
    fc.assert(
      fc.property(hours, hours, (a, b) => {
        const meeting = hoursMeeting(a, b, clock, from);
        const outside = hoursOutside(a, b, clock, from);
        const [inA, inB] = [openIntervals(a, clock, from, to), openIntervals(b, clock, from, to)];
        const within = (list: typeof inA, moment: number): boolean =>
          list.some(([start, end]) => start <= moment && moment < end);
        let [meets, leaves] = [false, false];
        for (let moment = from; moment < to && !(meets && leaves); moment += QUARTER) {
          if (!within(inA, moment)) continue;
          if (within(inB, moment)) meets = true;
          else leaves = true;
        }
        if (meets) expect(meeting).not.to.equal(undefined);
        if (leaves) expect(outside).not.to.equal(undefined);
        if (meeting) expect(isOpen(a, meeting[0]) && isOpen(b, meeting[0])).to.equal(true);
        if (outside) expect(isOpen(a, outside[0]) && !isOpen(b, outside[0])).to.equal(true);
        counts[meeting ? 'met' : 'apart']++;
        const { isOpen: open, until } = hoursAt(a, clock, from);
        expect(open).to.equal(isOpen(a, from));
        if (until === undefined) return;
        expect(isOpen(a, until)).to.equal(!open);
        expect(isOpen(a, until - 1)).to.equal(open);
      }),
      propertyRuns(120),
    );
    expect(Math.min(counts.met, counts.apart)).to.be.greaterThan(10);
  });

  it('know that in some year every day of the year is every day of the week', () => {
    const thursdays: Hours = { weekly: parseWeekly('thu 09:00-17:00') };
    const butChristmas: Hours = { closed: ['12-25'] };
    const outside = hoursOutside(thursdays, butChristmas, clock, at('2027-03-01'));
    expect(momentWords(outside![0], ZONE)).to.equal('Thursday 25 December 2031, 09:00');
    expect(hoursOutside(thursdays, { weekly: parseWeekly('mon-fri 08:00-18:00') }, clock, 0)).to.equal(
      undefined,
    );
  });
});
