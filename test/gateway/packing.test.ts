import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import { expect } from 'chai';
import fc from 'fast-check';
import { PackedBodies, type PackingCoding } from '../../packages/gateway/dist/page/packing.js';
import { propertyRuns } from '../support/property-runs.js';

const unpack = { gzip: gunzipSync, br: brotliDecompressSync } as const;
const page = (end: string): Buffer => Buffer.from(`<p>${'The next boat leaves at noon. '.repeat(40)}${end}`);

describe('packed bodies', () => {
  it('are used again for the very same bytes of an address, and for no others', () => {
    const bodies = new PackedBodies();
    const first = bodies.pack('mill.example\n/', page('1'), 'gzip');
    expect(bodies.pack('mill.example\n/', page('1'), 'gzip')).to.equal(first);
    expect(bodies.pack('mill.example\n/other', page('1'), 'gzip')).not.to.equal(first);
    expect(bodies.pack(undefined, page('1'), 'gzip')).not.to.equal(first);
    expect(gunzipSync(bodies.pack('mill.example\n/', page('2'), 'gzip')).equals(page('2'))).to.equal(true);
    expect(gunzipSync(bodies.pack('mill.example\n/', page('1'), 'gzip')).equals(page('1'))).to.equal(true);
  });

  it('are not kept of an address that sends another body each time', () => {
    const bodies = new PackedBodies();
    for (let i = 0; i < 6; i++) bodies.pack('mill.example\n/', page(String(i)), 'gzip');
    const once = bodies.pack('mill.example\n/', page('x'), 'gzip');
    expect(bodies.pack('mill.example\n/', page('x'), 'gzip')).not.to.equal(once);
  });

  it('hold what was packed, whatever comes in whatever order', () => {
    const any = fc.record({
      key: fc.constantFrom(undefined, 'a', 'b'),
      coding: fc.constantFrom<PackingCoding>('gzip', 'br'),
      length: fc.constantFrom(0, 1, 300, 8_191, 8_192, 8_193, 70_000),
      sign: fc.constantFrom('x', 'y'),
    });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 30 }), (asked) => {
        const bodies = new PackedBodies();
        for (const { key, coding, length, sign } of asked) {
          const body = Buffer.alloc(length, `<b>${sign}`);
          expect(unpack[coding](bodies.pack(key, body, coding)).equals(body)).to.equal(true);
        }
      }),
      propertyRuns(60),
    );
  });
});
