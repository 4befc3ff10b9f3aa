import { expect } from 'chai';
import fc from 'fast-check';
import {
  HoursTextError,
  WEEKDAYS,
  dateWords,
  dayAt,
  devicesWords,
  hoursProblems,
  hoursWords,
  isLimited,
  momentOf,
  momentWords,
  pageRulesWords,
  parseWeekly,
  normalizeLimits,
  visitorWords,
  type Hours,
  type VisitorRules,
} from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';

describe('words of reach', () => {
  it('for hours are as short as they can be, and say everything', () => {
    const cases: readonly (readonly [string, string])[] = [
      ['daily 00:00-24:00', 'every day all day'],
      ['mon-fri 9-17', 'Mon–Fri 09:00–17:00'],
      ['mon,tue 9-17', 'Mon and Tue 09:00–17:00'],
      ['mon 9-12 13-17', 'Mon 09:00–12:00 and 13:00–17:00'],
      ['mon 9-17; wed-fri 9-17', 'Mon 09:00–17:00, Wed–Fri 09:00–17:00'],
      ['sat-sun 10:30-14', 'Sat and Sun 10:30–14:00'],
      ['fri-mon 10-14', 'Mon 10:00–14:00, Fri–Sun 10:00–14:00'],
      ['Monday-Friday 9-17', 'Mon–Fri 09:00–17:00'],
    ];
    for (const [typed, words] of cases)
      expect(hoursWords({ weekly: parseWeekly(typed) }), typed).to.equal(words);
    const more: Hours = {
      closed: ['01-01', '12-25'],
      exceptions: [
        { date: '2027-05-01', spans: [] },
        { date: '2027-05-02', spans: [{ from: '00:00', to: '24:00' }] },
      ],
      first: '2027-03-01',
    };
    expect(hoursWords(more)).to.equal(
      'closed on 1 January and 25 December, closed on 1 May 2027, 2 May 2027 all day, from 1 March 2027',
    );
  });

  it('for weekly hours can be typed again', () => {
    const time = fc.integer({ min: 0, max: 23 }).map((hour) => `${String(hour).padStart(2, '0')}:15`);
    const span = fc.record({ from: time, to: time }).filter(({ from, to }) => from < to);
    const weekly = fc.dictionary(
      fc.constantFrom(...WEEKDAYS),
      fc.array(span, { minLength: 1, maxLength: 1 }),
      { minKeys: 1 },
    );
    fc.assert(
      fc.property(weekly, (given) => {
        const typed = hoursWords({ weekly: given }).replace('every day', 'daily').replaceAll(' and ', ' ');
        expect(parseWeekly(typed), typed).to.deep.equal(given);
        expect(hoursProblems({ weekly: given })).to.deep.equal([]);
      }),
      propertyRuns(200),
    );
    for (const typed of ['', 'mon', 'mon tue', '9-17', 'noday 9-17', 'mon 9–', 'mon 9-17 tue'])
      expect(() => parseWeekly(typed), typed).to.throw(HoursTextError);
  });

  it('for moments are as near as people would say them', () => {
    const now = momentOf('2027-03-01T10:00', 'Europe/Dublin');
    const words = (local: string): string =>
      momentWords(momentOf(local, 'Europe/Dublin'), 'Europe/Dublin', now);
    expect(words('2027-03-01T17:05')).to.equal('today 17:05');
    expect(words('2027-03-02T09:00')).to.equal('tomorrow 09:00');
    expect(words('2027-03-05T09:00')).to.equal('Friday 09:00');
    expect(words('2027-03-08T09:00')).to.equal('Monday 8 March 2027, 09:00');
    expect(words('2027-02-28T09:00')).to.equal('Sunday 28 February 2027, 09:00');
    expect(momentWords(now, 'Pacific/Auckland'), 'on the clock of the site').to.equal(
      'Monday 1 March 2027, 23:00',
    );
    expect(dayAt(now, 'Pacific/Kiritimati')).to.equal('2027-03-02');
    expect(dateWords('2028-02-29')).to.equal('29 February 2028');
  });

  it('for visitors say what is waited for, and how often', () => {
    const cases: readonly (readonly [VisitorRules, string])[] = [
      [{ who: 'first' }, 'on a first visit'],
      [{ who: 'returning' }, 'for visitors who have been before'],
      [{ afterSeconds: 1 }, 'after 1 second'],
      [
        { afterSeconds: 5, afterScroll: 50, onLeaving: true },
        'after 5 seconds and after 50 % of the page is scrolled and when about to leave',
      ],
      [{ everyDays: 1 }, 'at most once a day'],
      [{ everyDays: 30, minWidth: 800 }, 'in windows at least 800 pixels wide, at most once in 30 days'],
      [{ minWidth: 400, maxWidth: 800 }, 'in windows 400 to 800 pixels wide'],
    ];
    for (const [visitor, words] of cases) {
      expect(visitorWords(visitor)).to.equal(words);
      expect(isLimited(visitor)).to.equal(true);
    }
    for (const nothing of [undefined, {}, { afterSeconds: 0 }, { onLeaving: false, everyDays: 0 }])
      expect(isLimited(nothing)).to.equal(false);
  });

  it('for pages and devices name groups as people do', () => {
    const groups = [{ key: 'booked', name: 'Booked', patterns: ['/booked'] }];
    expect(pageRulesWords({ include: [], exclude: [] })).to.equal('on all pages');
    expect(pageRulesWords({ include: ['/a', '@booked', '/c'], exclude: ['@gone'] }, groups)).to.equal(
      'on /a, “Booked” and /c, but not on @gone',
    );
    expect(devicesWords(['desktop', 'phone'])).to.equal('phones and desktops');
    expect(devicesWords(['desktop', 'phone', 'tablet'])).to.equal('phones, tablets and desktops');
  });

  it('are not needed for what bounds nothing', () => {
    expect(
      normalizeLimits({ devices: ['phone', 'tablet', 'desktop'], consent: [], hours: {}, visitor: {} }),
    ).to.equal(undefined);
    expect(normalizeLimits({ devices: ['phone'], hours: { weekly: {} } })).to.deep.equal({
      devices: ['phone'],
      hours: { weekly: {} },
    });
  });
});
