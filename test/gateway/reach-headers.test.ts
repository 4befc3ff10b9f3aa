import { DEVICE_HEADERS, type PlannedPage } from '@pragmatica/core';
import { expect } from 'chai';
import { setReachHeaders } from '../../packages/gateway/dist/page/reach-headers.js';

const NOW = Date.UTC(2027, 2, 1, 10);
const MINUTE = 60_000;

const page = (vary: readonly string[], until = Infinity): PlannedPage => ({
  vary,
  isInReach: true,
  until: () => until,
  outcome: () => {
    throw new Error('not asked here');
  },
});

type Headers = Record<string, string | string[]>;

function told(headers: Headers, of: PlannedPage): Headers {
  const sent = { ...headers };
  setReachHeaders(sent, of, NOW);
  return sent;
}

describe('what an answer says of who gets it', () => {
  describe('to caches, by Vary (RFC 9110, 12.5.5)', () => {
    const cases: readonly (readonly [
      what: string,
      given: Headers,
      vary: readonly string[],
      expected: unknown,
    ])[] = [
      ['nothing', {}, [], undefined],
      ['the origin’s own', { vary: 'Accept-Encoding' }, [], 'Accept-Encoding'],
      ['ours', {}, ['Cookie'], 'Cookie'],
      ['both', { vary: 'Accept-Encoding' }, ['Cookie'], 'Accept-Encoding, Cookie'],
      ['each once, whatever its case', { vary: 'cookie, Accept' }, ['Cookie'], 'cookie, Accept'],
      ['lists of several lines', { vary: ['Accept', 'Origin'] }, ['Cookie'], 'Accept, Origin, Cookie'],
      ['everything', { vary: '*' }, ['Cookie'], '*'],
    ];
    for (const [what, given, vary, expected] of cases)
      it(what, () => {
        expect(told(given, page(vary))['vary']).to.equal(expected);
      });
  });

  it('to browsers, which hint is asked for (RFC 8942), and only where devices decide', () => {
    expect(told({}, page(DEVICE_HEADERS))['accept-ch']).to.equal('Sec-CH-UA-Form-Factors');
    expect(told({ 'accept-ch': 'DPR' }, page(DEVICE_HEADERS))['accept-ch']).to.equal(
      'DPR, Sec-CH-UA-Form-Factors',
    );
    expect(told({}, page(['Cookie']))).not.to.have.property('accept-ch');
  });

  describe('of how long it may be kept (RFC 9111, 4.2)', () => {
    const cases: readonly (readonly [what: string, given: Headers, minutes: number, expected: Headers])[] = [
      [
        'shorter than the next change already',
        { 'cache-control': 'max-age=60' },
        10,
        { 'cache-control': 'max-age=60' },
      ],
      ['longer', { 'cache-control': 'max-age=3600' }, 10, { 'cache-control': 'max-age=600' }],
      [
        'longer in shared caches',
        { 'cache-control': 'max-age=60, s-maxage=3600' },
        10,
        { 'cache-control': 'max-age=60, s-maxage=600' },
      ],
      ['in quotes', { 'cache-control': 'max-age="3600"' }, 10, { 'cache-control': 'max-age=600' }],
      [
        'with some age already',
        { 'cache-control': 'max-age=3600', age: '300' },
        10,
        { 'cache-control': 'max-age=900', age: '300' },
      ],
      [
        'with an age that is none',
        { 'cache-control': 'max-age=3600', age: 'old' },
        10,
        { 'cache-control': 'max-age=600', age: 'old' },
      ],
      [
        'used beyond its time',
        { 'cache-control': 'max-age=60, stale-while-revalidate=9, stale-if-error=9, immutable, public' },
        10,
        { 'cache-control': 'max-age=60, public' },
      ],
      ['never', { 'cache-control': 'no-store' }, 10, { 'cache-control': 'no-store' }],
      ['asked again each time', { 'cache-control': 'no-cache' }, 10, { 'cache-control': 'no-cache' }],
      ['by guess', { 'last-modified': 'x' }, 10, { 'last-modified': 'x', 'cache-control': 'no-cache' }],
      ['by guess, in private', { 'cache-control': 'private' }, 10, { 'cache-control': 'private, no-cache' }],
      [
        'by a date',
        { expires: new Date(NOW + 60 * MINUTE).toUTCString() },
        10,
        { expires: new Date(NOW + 10 * MINUTE).toUTCString() },
      ],
      [
        'by an earlier date',
        { expires: new Date(NOW + MINUTE).toUTCString() },
        10,
        { expires: new Date(NOW + MINUTE).toUTCString() },
      ],
      ['by a date that is none', { expires: '0' }, 10, { expires: '0' }],
      [
        'in a delivery network (RFC 9213)',
        { 'cache-control': 'no-cache', 'cdn-cache-control': 'max-age=3600' },
        10,
        { 'cache-control': 'no-cache', 'cdn-cache-control': 'max-age=600' },
      ],
      [
        'until a change that is now',
        { 'cache-control': 'max-age=3600' },
        0,
        { 'cache-control': 'max-age=0' },
      ],
    ];
    for (const [what, given, minutes, expected] of cases)
      it(what, () => {
        expect(told(given, page([], NOW + minutes * MINUTE))).to.deep.equal(expected);
      });

    it('which nothing bounds where no hours do', () => {
      const given = { 'cache-control': 'max-age=31536000, immutable' };
      expect(told(given, page(['Cookie']))).to.deep.equal({ ...given, vary: 'Cookie' });
    });

    it('rounded down: rather a second too early than one too late', () => {
      expect(told({ 'cache-control': 'max-age=9' }, page([], NOW + 1_999))).to.deep.equal({
        'cache-control': 'max-age=1',
      });
    });
  });
});
