import { expect } from 'chai';
import { Waiting } from '../../packages/gateway/dist/page/waiting.js';

const LIMITS = { address: { slow: 3, most: 6 }, folder: { slow: 5, most: 9 }, origin: 12 } as const;

describe('requests that wait for an origin', () => {
  let now: number;
  let waiting: Waiting;
  beforeEach(() => {
    now = 0;
    waiting = new Waiting(LIMITS, () => now);
  });

  /** How many of so many are let in. */
  const enter = (count: number, target: (index: number) => string): number =>
    Array.from({ length: count }, (_, i) => waiting.enter(target(i))).filter(Boolean).length;

  it('to one address fill its share when they have waited long, whatever they search for', () => {
    expect(enter(3, (i) => `/slow?page=${i}`)).to.equal(3);
    now = 3_000;
    expect(enter(1, () => '/slow?page=9')).to.equal(0);
    expect(enter(1, () => '/other')).to.equal(1);
  });

  it('to one address that answers are let in up to the most', () => {
    expect(enter(8, () => '/popular')).to.equal(6);
  });

  it('below one folder fill the folder’s share, at different addresses', () => {
    expect(enter(5, (i) => `/shop/${i}`)).to.equal(5);
    now = 3_000;
    expect(enter(1, () => '/shop/new')).to.equal(0);
    expect(enter(1, () => '/news/new')).to.equal(1);
  });

  it('fill the origin’s share all together, and make room once when they are answered', () => {
    const leave = waiting.enter('/0')!;
    expect(enter(20, (i) => `/${i + 1}`)).to.equal(11);
    leave();
    leave();
    expect(enter(5, (i) => `/again-${i}`)).to.equal(1);
  });
});
