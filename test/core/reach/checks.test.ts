import { expect } from 'chai';
import {
  exampleSet,
  parseWeekly,
  runChecks,
  type ExampleSnippet,
  type Finding,
  type Knowledge,
  type Limits,
  type Snapshot,
} from '@pragmatica/core';
import { MONDAY_TEN } from '../../support/sets.js';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
const MAKER = '<script>window.tally = function () {};</script>';
const USER = "<script>tally('seen');</script>";

interface Given extends Limits {
  readonly include?: readonly string[];
  readonly exclude?: readonly string[];
}

const snippet = (
  name: string,
  code: string,
  { include = [], exclude = [], ...limits }: Given,
): ExampleSnippet => ({
  name,
  include,
  exclude,
  limits,
  parts: [{ placement: 'head-end', code }],
});

const KNOWN: Knowledge = {
  now: MONDAY_TEN,
  paths: ['/', '/fares', '/booking', '/booking/confirmed'],
  hosts: [
    { host: 'www.mill.test', environment: 'live' },
    { host: 'try.mill.test', environment: 'staging' },
  ],
};

function withSite(snapshot: Snapshot): Snapshot {
  const categories = [
    { key: 'adverts', name: 'Adverts' },
    { key: 'visits', name: 'Visits' },
  ];
  return {
    ...snapshot,
    site: {
      ...snapshot.site,
      consent: { categories, cookie: 'agreed', format: { kind: 'list' } },
      pageGroups: [{ key: 'booked', name: 'Booked', patterns: ['/booking/confirmed'] }],
    },
  };
}

const check = (...snippets: ExampleSnippet[]): Finding[] => runChecks(withSite(exampleSet(snippets)), KNOWN);
const ofCheck = (id: string, findings: readonly Finding[]): Finding | undefined =>
  findings.find((finding) => finding.check === id);

const hours = (text: string): Limits => ({ hours: { weekly: parseWeekly(text) } });

describe('checks and reach', () => {
  describe('call the same code twice a mistake only where both run', () => {
    const cases: readonly (readonly [what: string, a: Given, b: Given, where: string | undefined])[] = [
      ['everywhere', {}, {}, '/'],
      [
        'on pages that meet',
        { include: ['/booking/*'] },
        { include: ['/:a/confirmed'] },
        '/booking/confirmed',
      ],
      ['on pages that only look alike', { include: ['/booking/*'] }, { include: ['/booking'] }, undefined],
      ['in a group and beside it', { include: ['@booked'] }, { exclude: ['@booked'] }, undefined],
      ['in a group', { include: ['@booked'] }, { include: ['/booking/*'] }, '/booking/confirmed'],
      ['on one host each', { include: ['//www.mill.test/*'] }, { include: ['//try.mill.test/*'] }, undefined],
      [
        'on the host of one environment',
        { include: ['//try.mill.test/*'] },
        { environment: 'live' },
        undefined,
      ],
      ['in one environment each', { environment: 'live' }, { environment: 'staging' }, undefined],
      ['on devices of one kind', { devices: ['phone'] }, { devices: ['tablet', 'phone'] }, '/, on a phone'],
      ['on other devices', { devices: ['phone'] }, { devices: ['desktop'] }, undefined],
      ['at times that touch', hours('mon 09:00-12:00'), hours('mon 12:00-13:00'), undefined],
      ['at times that meet', hours('thu 09:00-12:00'), hours('thu 11:30-13:00'), '/, Thursday 11:30'],
      ['over midnight', hours('mon 22:00-02:00'), hours('tue 01:00-03:00'), '/, tomorrow 01:00'],
      [
        'one after the other',
        { hours: { last: '2027-03-31' } },
        { hours: { first: '2027-04-01' } },
        undefined,
      ],
      ['one before now', { hours: { last: '2027-02-01' } }, {}, undefined],
      [
        'with other consent',
        { consent: ['adverts'] },
        { consent: ['visits'] },
        '/, with consent to Adverts and Visits',
      ],
      ['for other visitors', { visitor: { who: 'first' } }, { visitor: { who: 'returning' } }, undefined],
      ['in other windows', { visitor: { maxWidth: 799 } }, { visitor: { minWidth: 800 } }, undefined],
      ['in windows that fit both', { visitor: { maxWidth: 800 } }, { visitor: { minWidth: 800 } }, '/'],
    ];
    for (const [what, a, b, where] of cases)
      it(what, () => {
        const found = ofCheck('same-code', check(snippet('One', COUNTER, a), snippet('Two', COUNTER, b)));
        if (where === undefined) expect(found?.advice).to.equal(undefined);
        else expect(found?.advice).to.include(`Both run on ${where}, for example.`);
        const turned = ofCheck('same-code', check(snippet('Two', COUNTER, b), snippet('One', COUNTER, a)));
        expect(turned === undefined, 'the other way round').to.equal(found === undefined);
      });
  });

  it('offer to switch the second off only where the first runs as well', () => {
    const inside = check(snippet('One', COUNTER, {}), snippet('Two', COUNTER, { devices: ['phone'] }));
    expect(ofCheck('same-code', inside)!.fix?.title).to.equal('Switch “Two” off.');
    const outside = check(snippet('One', COUNTER, { devices: ['phone'] }), snippet('Two', COUNTER, {}));
    expect(ofCheck('same-code', outside)!.fix).to.equal(undefined);
  });

  describe('name a page load in which something needed is missing', () => {
    const cases: readonly (readonly [what: string, maker: Given, user: Given, where: string | undefined])[] =
      [
        ['nothing', {}, {}, undefined],
        ['the user within the maker', { exclude: ['/fares'] }, { include: ['/booking*'] }, undefined],
        ['a page', { exclude: ['/fares'] }, {}, '/fares'],
        ['staging', { environment: 'live' }, {}, '/, on staging'],
        ['a device', { devices: ['desktop'] }, {}, '/, on a tablet'],
        ['an hour', hours('mon-fri 09:00-17:00'), hours('mon-fri 09:00-18:00'), '/, today 17:00'],
        ['hours within hours', hours('daily 08:00-20:00'), hours('mon-fri 09:00-18:00'), undefined],
        ['consent', { consent: ['visits'] }, {}, '/, without consent to Visits'],
        ['the same consent', { consent: ['visits'] }, { consent: ['adverts', 'visits'] }, undefined],
        ['a later visit', { visitor: { who: 'first' } }, {}, '/, for somebody who has been here before'],
        ['a narrow window', { visitor: { minWidth: 600 } }, {}, '/, in a window 599 pixels wide'],
        ['what comes once only', { visitor: { everyDays: 7 } }, {}, '/, before what it waits for has come'],
      ];
    for (const [what, maker, user, where] of cases)
      it(what, () => {
        const found = ofCheck(
          'needs-what-is-off',
          check(snippet('Maker', MAKER, maker), snippet('User', USER, user)),
        );
        expect(found?.title).to.equal(where === undefined ? undefined : '“User” runs where “Maker” does not');
        if (where !== undefined) expect(found!.advice).to.include(`for example on ${where}. Run`);
      });

    it('and not where several makers share the page loads between them', () => {
      const makers = (['phone', 'tablet', 'desktop'] as const).map((device) =>
        snippet(`On ${device}`, MAKER, { devices: [device] }),
      );
      expect(ofCheck('needs-what-is-off', check(...makers, snippet('User', USER, {})))).to.equal(undefined);
      const found = ofCheck(
        'needs-what-is-off',
        check(...makers.slice(1), snippet('User', USER, { devices: ['phone'] })),
      );
      expect(found?.advice).to.include('“tally” is missing there');
    });

    it('of what somebody said must come first', () => {
      const user = { ...snippet('User', '<i>a</i>', {}), needs: ['maker'] };
      const found = ofCheck('stated-need', check(snippet('Maker', MAKER, { consent: ['adverts'] }), user));
      expect(found?.title).to.equal(
        '“User” needs “Maker”, which does not run on /, without consent to Adverts',
      );
    });
  });

  it('know that what waits in the browser comes later than what does not', () => {
    const waiting = check(
      snippet('Maker', MAKER, { visitor: { afterSeconds: 3 } }),
      snippet('User', USER, {}),
    );
    expect(ofCheck('used-before-defined', waiting)).not.to.equal(undefined);
    const other = check(snippet('Maker', MAKER, {}), snippet('User', USER, { visitor: { afterSeconds: 3 } }));
    expect(ofCheck('used-before-defined', other)).to.equal(undefined);
  });

  it('allow a test mode on staging', () => {
    const test = '<script>window.nudgelet = { testMode: true };</script>';
    expect(ofCheck('test-mode', check(snippet('Flag', test, { environment: 'staging' })))).to.equal(
      undefined,
    );
    expect(ofCheck('test-mode', check(snippet('Flag', test, {})))).not.to.equal(undefined);
  });

  describe('say of a snippet that never runs why', () => {
    const cases: readonly (readonly [given: Given, title: string])[] = [
      [{ include: ['/booking/*'], exclude: ['/:a/*'] }, '“Counter” runs on no page'],
      [{ include: ['//try.mill.test/*'], environment: 'live' }, '“Counter” runs on no page'],
      [{ hours: { weekly: {} } }, '“Counter” never opens'],
      [
        { hours: { weekly: parseWeekly('sun 09-10'), first: '2027-03-01', last: '2027-03-05' } },
        '“Counter” never opens',
      ],
      [{ hours: { last: '2027-02-01' } }, '“Counter” has ended: its last day is past'],
      [{ visitor: { minWidth: 900, maxWidth: 800 } }, '“Counter” fits no window size'],
    ];
    for (const [given, title] of cases)
      it(`${title} (${JSON.stringify(given)})`, () => {
        expect(ofCheck('reach-empty', check(snippet('Counter', COUNTER, given)))?.title).to.equal(title);
      });

    it('and not where it runs some day', () => {
      for (const given of [
        { hours: { first: '2040-01-01' } },
        hours('sun 23:59-24:00'),
        { include: ['/:x'], exclude: ['/a'] },
      ])
        expect(ofCheck('reach-empty', check(snippet('Counter', COUNTER, given)))).to.equal(undefined);
    });
  });

  it('say that something is closed, and until when', () => {
    const found = ofCheck('closed-now', check(snippet('Counter', COUNTER, hours('thu 10-12'))));
    expect(found?.advice).to.match(/^It opens Thursday 10:00 \(UTC\)\./);
    expect(ofCheck('closed-now', check(snippet('Counter', COUNTER, hours('mon 09-12'))))).to.equal(undefined);
  });

  it('name a group or a purpose that is not there', () => {
    const titles = check(
      snippet('Counter', COUNTER, { include: ['@gone', '@booked'], consent: ['cake', 'adverts'] }),
    )
      .filter((finding) => finding.check === 'undefined-reach')
      .map(({ title }) => title);
    expect(titles).to.deep.equal([
      '“Counter” uses the page group @gone, which does not exist',
      '“Counter” waits for consent to “cake”, which this site does not ask for',
    ]);
  });
});
