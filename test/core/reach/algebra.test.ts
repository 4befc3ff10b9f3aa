import { expect } from 'chai';
import fc from 'fast-check';
import {
  ReachAlgebra,
  deviceOf,
  grantedConsent,
  momentOf,
  parseWeekly,
  reachWords,
  whyOutOfReach,
  witnessWords,
  type ConsentRules,
  type PageLoad,
  type Reach,
  type SiteReach,
} from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';
import { MONDAY_TEN, load } from '../../support/sets.js';

const SITE: SiteReach = {
  timeZone: 'UTC',
  consent: {
    categories: [
      { key: 'adverts', name: 'Adverts' },
      { key: 'visits', name: 'Counting visits' },
    ],
    cookie: 'agreed',
    format: { kind: 'list' },
  },
};
const HOSTS = [
  { host: 'www.mill.test', environment: 'live' },
  { host: 'try.mill.test', environment: 'staging' },
] as const;
const ALL = { include: [], exclude: [] };
const algebra = (): ReachAlgebra => new ReachAlgebra({ site: SITE, hosts: HOSTS, from: MONDAY_TEN });
/** Hours, which take longest to ask, last. */
const holds = ({ hours, ...others }: Reach, page: PageLoad): boolean =>
  whyOutOfReach(others, SITE, page).length === 0 &&
  (!hours || whyOutOfReach({ pages: ALL, hours }, SITE, page).length === 0);

/** Left out where the condition does not hold. */
const maybe = <T>(value: fc.Arbitrary<T>): fc.Arbitrary<T | undefined> =>
  fc.option(value, { nil: undefined });

const reaches = fc
  .record({
    include: fc.subarray(['/a', '/a/*', '//try.mill.test/*', '/:x']),
    exclude: fc.subarray(['/a/b', '/x']),
    environment: maybe(fc.constantFrom('live' as const, 'staging' as const)),
    devices: maybe(fc.constantFrom(['phone'] as const, ['desktop', 'tablet'] as const)),
    hours: maybe(fc.constantFrom('mon 09-12', 'mon 11-13, tue 09-10', 'mon-wed 10-11')),
    consent: maybe(fc.constantFrom(['adverts'], ['adverts', 'visits'])),
    who: maybe(fc.constantFrom('first' as const, 'returning' as const)),
    minWidth: maybe(fc.constantFrom(400, 800)),
    maxWidth: maybe(fc.constantFrom(600, 1000)),
  })
  .map(({ include, exclude, environment, devices, hours, consent, who, minWidth, maxWidth }): Reach => ({
    pages: { include, exclude },
    ...(environment && { environment }),
    ...(devices && { devices }),
    ...(hours && { hours: { weekly: parseWeekly(hours) } }),
    ...(consent && { consent }),
    ...((who ?? minWidth ?? maxWidth) && {
      visitor: { ...(who && { who }), ...(minWidth && { minWidth }), ...(maxWidth && { maxWidth }) },
    }),
  }));

/** Page loads that tell all of these reaches apart. */
const LOADS: PageLoad[] = [];
for (const path of ['/', '/a', '/a/b', '/a/c', '/x', '/y', '/y/z'])
  for (const { host, environment } of HOSTS)
    for (const device of ['phone', 'desktop'] as const)
      for (const time of ['2027-03-01T10:30', '2027-03-01T11:30', '2027-03-01T12:30', '2027-03-02T10:30'])
        for (const consent of [[], ['adverts'], ['visits', 'adverts']])
          for (const visitor of ['first', 'returning'] as const)
            for (const width of [300, 500, 900, 1100]) {
              const base = load(path);
              LOADS.push({
                ...base,
                page: { ...base.page, host },
                environment,
                device,
                at: momentOf(time, 'UTC'),
                consent,
                visitor,
                width,
              });
            }

describe('reaches', () => {
  it('meet, hold one another and are empty just as trying page loads says', () => {
    const counts = { meets: 0, apart: 0, inside: 0, outside: 0, empty: 0 };
    fc.assert(
      fc.property(reaches, reaches, (a, b) => {
        const inA = LOADS.filter((one) => holds(a, one));
        const meeting = algebra().meets(a, b);
        const outside = algebra().outside(a, b);
        const shown = JSON.stringify([a, b]);
        expect(meeting !== undefined, `meets ${shown}`).to.equal(inA.some((one) => holds(b, one)));
        expect(outside !== undefined, `outside ${shown}`).to.equal(inA.some((one) => !holds(b, one)));
        expect(algebra().emptyFor(a) !== undefined, `empty ${shown}`).to.equal(inA.length === 0);
        if (meeting) expect(holds(a, meeting) && holds(b, meeting), shown).to.equal(true);
        if (outside) {
          expect(holds(a, outside.witness), shown).to.equal(true);
          expect(holds(b, outside.witness), `${shown} ${JSON.stringify(outside)}`).to.equal(false);
        }
        counts[meeting ? 'meets' : 'apart']++;
        counts[outside ? 'outside' : 'inside']++;
        if (inA.length === 0) counts.empty++;
      }),
      propertyRuns(150),
    );
    expect(Math.min(...Object.values(counts)), JSON.stringify(counts)).to.be.greaterThan(0);
  });

  it('find a width between two that have nothing in common', () => {
    const narrow: Reach = { pages: ALL, visitor: { maxWidth: 600 } };
    const wide: Reach = { pages: ALL, visitor: { minWidth: 800 } };
    expect(algebra().outside(narrow, wide)!.witness.width).to.equal(600);
    expect(algebra().outside(wide, narrow)!.witness.width).to.equal(800);
    expect(algebra().meets(narrow, wide)).to.equal(undefined);
  });

  it('show people a page load', () => {
    const phones: Reach = { pages: { include: ['/book/*'], exclude: [] }, devices: ['phone'] };
    const thursdays: Reach = {
      pages: ALL,
      hours: { weekly: parseWeekly('thu 10-12') },
      consent: ['adverts'],
    };
    const words = witnessWords(algebra().meets(phones, thursdays)!, SITE, MONDAY_TEN);
    expect(words).to.equal('/book/, on a phone, Thursday 10:00, with consent to Adverts');
    const outside = algebra().outside({ pages: ALL }, thursdays)!;
    expect(outside.dimension).to.equal('hours');
    const consent = algebra().outside({ pages: ALL }, { pages: ALL, consent: ['adverts'] })!;
    expect(witnessWords(consent.witness, SITE)).to.equal('/, without consent to Adverts');
    const once = algebra().outside({ pages: ALL }, { pages: ALL, visitor: { everyDays: 7 } })!;
    expect(witnessWords(once.witness, SITE)).to.equal('/, before what it waits for has come');
  });

  it('are told as a sentence', () => {
    expect(
      reachWords(
        {
          pages: { include: ['@booked'], exclude: ['/x'] },
          environment: 'live',
          devices: ['phone', 'tablet'],
          hours: { weekly: parseWeekly('mon-fri 09:00-17:00') },
          consent: ['visits'],
          visitor: { who: 'first', afterSeconds: 5, everyDays: 7, maxWidth: 700 },
        },
        { ...SITE, pageGroups: [{ key: 'booked', name: 'Booked', patterns: ['/booked'] }] },
      ),
    ).to.equal(
      'on “Booked”, but not on /x, only on live, only on phones and tablets, Mon–Fri 09:00–17:00, with consent to Counting visits, on a first visit, in windows at most 700 pixels wide, after 5 seconds, at most once in 7 days',
    );
  });

  it('say every reason why they do not hold a page load', () => {
    const reach: Reach = {
      pages: { include: ['/booking'], exclude: [] },
      environment: 'staging',
      devices: ['phone'],
      hours: { weekly: parseWeekly('fri 09-10') },
      consent: ['adverts'],
      visitor: { who: 'returning', minWidth: 900 },
    };
    const reasons = whyOutOfReach(reach, SITE, load('/news', { visitor: 'first', width: 390 }));
    expect(reasons.map(({ message }) => message)).to.deep.equal([
      '/news is not among its pages: it runs only on /booking.',
      'It runs only on staging, and this is live.',
      'It is only for phones, and this is a desktop.',
      'Closed: opens Friday 09:00.',
      'Waits for consent: Adverts.',
      'It is only for visitors who have been here before, and this is a first visit.',
      'The window is 390 pixels wide; it needs 900.',
    ]);
    const over = whyOutOfReach({ pages: ALL, hours: { last: '2027-02-01' } }, SITE, load('/'));
    expect(over[0]!.message).to.equal('It has ended: its last day was 1 February 2027.');
  });
});

describe('what a request says', () => {
  const PHONE =
    'Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/130.0.0.0 Mobile Safari/537.36';

  it('of its device: hints first, then the User-Agent', () => {
    expect(deviceOf({ 'user-agent': PHONE })).to.equal('phone');
    expect(deviceOf({ 'user-agent': PHONE.replace(' Mobile', '') })).to.equal('tablet');
    expect(deviceOf({ 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Firefox/130.0' })).to.equal('desktop');
    expect(deviceOf({})).to.equal('desktop');
    expect(deviceOf({ 'user-agent': 'x'.repeat(100_000) })).to.equal('desktop');
    expect(
      deviceOf({ 'user-agent': PHONE, 'sec-ch-ua-mobile': '?0', 'sec-ch-ua-platform': '"Linux"' }),
    ).to.equal('desktop');
    expect(deviceOf({ 'sec-ch-ua-mobile': '?0', 'sec-ch-ua-platform': '"Android"' })).to.equal('tablet');
    expect(deviceOf({ 'sec-ch-ua-mobile': '?1' })).to.equal('phone');
    expect(deviceOf({ 'sec-ch-ua-form-factors': '"Tablet"', 'sec-ch-ua-mobile': '?1' })).to.equal('tablet');
  });

  it('of what was agreed to, from a list or from JSON', () => {
    const rules = SITE.consent!;
    const granted = (cookies: string, format: ConsentRules['format'] = { kind: 'list' }): string[] =>
      grantedConsent({ ...rules, format }, cookies);
    expect(granted('a=1; agreed=visits%2Cadverts; b=2')).to.deep.equal(['adverts', 'visits']);
    expect(granted('agreed="visits|other"')).to.deep.equal(['visits']);
    expect(granted('notagreed=visits')).to.deep.equal([]);
    expect(granted('agreed=%E0%A4%A')).to.deep.equal([]);
    const json = (value: unknown, path: string): string[] =>
      granted(`agreed=${encodeURIComponent(JSON.stringify(value))}`, { kind: 'json', path });
    expect(json({ given: ['adverts'] }, '$.given')).to.deep.equal(['adverts']);
    expect(json({ p: { adverts: true, visits: false } }, '$.p')).to.deep.equal(['adverts']);
    expect(json({ p: { adverts: 'denied', visits: 'granted' } }, '$.p')).to.deep.equal(['visits']);
    expect(json([{ name: 'visits' }], '$[*].name')).to.deep.equal(['visits']);
    expect(granted('agreed={broken', { kind: 'json', path: '$.a' })).to.deep.equal([]);
    const named = { ...rules, categories: [{ key: 'adverts', name: 'Adverts', value: 'C4' }] };
    expect(grantedConsent(named, 'agreed=C1:C4')).to.deep.equal(['adverts']);
  });
});
