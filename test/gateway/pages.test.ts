import { createServer } from 'node:http';
import {
  brotliCompressSync,
  brotliDecompressSync,
  deflateSync,
  gunzipSync,
  gzipSync,
  inflateSync,
} from 'node:zlib';
import { insert, type InsertPart } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { startGateway, type StartedGateway } from '../support/gateway.js';
import { hostilePage } from '../support/hostile-pages.js';
import { part, set, snippet } from '../support/sets.js';

const CODINGS = {
  identity: [(bytes: Buffer) => bytes, (bytes: Buffer) => bytes],
  gzip: [gzipSync, gunzipSync],
  br: [brotliCompressSync, brotliDecompressSync],
  deflate: [deflateSync, inflateSync],
} as const;
type Coding = keyof typeof CODINGS;

const PARTS = [
  part('head-start', 0, '<script>1</script>'),
  part('head-end', 0, '<meta name=two>'),
  part('body-start', 0, '<script>3</script>'),
  part('body-end', 0, '<div>4</div>'),
  part('body-end', 1, '<script>5</script>'),
];
const SNAPSHOT = set(snippet('all', { parts: PARTS }));
const AS_PARTS: readonly InsertPart[] = PARTS.map(({ placement, code }, i) => ({
  key: String(i),
  placement,
  code,
}));

interface Served {
  readonly body: Buffer;
  readonly coding: Coding;
  /** Sizes of the pieces in which the origin sends it. */
  readonly pieces: readonly number[];
  readonly hasTag: boolean;
}

/** What a visitor gets is what insertion makes of the page, whatever the way there looked like. */
describe('any page through the gateway', function () {
  this.timeout(180_000);
  let gateway: StartedGateway;
  const pages = new Map<string, Served>();

  before(async () => {
    const origin = createServer((request, response) => {
      const { body, coding, pieces, hasTag } = pages.get(request.url!)!;
      response.writeHead(200, {
        'content-type': 'text/html; charset=utf-8',
        ...(coding === 'identity' ? { 'content-length': body.length } : { 'content-encoding': coding }),
        ...(hasTag ? { etag: `"${request.url!}"` } : {}),
      });
      let at = 0;
      const next = (index: number): void => {
        if (index >= pieces.length || at >= body.length) {
          response.end(body.subarray(at));
          return;
        }
        const size = pieces[index]!;
        response.write(body.subarray(at, at + size));
        at += size;
        setImmediate(() => next(index + 1));
      };
      next(0);
    });
    gateway = await startGateway([origin], { snapshot: SNAPSHOT });
  });
  after(() => gateway.close());

  const served = fc.record({
    html: fc
      .tuple(hostilePage(25), fc.constantFrom(0, 0, 0, 3_000))
      .map(([page, times]) => page + '<p>x</p>'.repeat(times)),
    coding: fc.constantFrom(...(Object.keys(CODINGS) as Coding[])),
    pieces: fc.array(fc.nat(400), { maxLength: 12 }),
    hasTag: fc.boolean(),
  });

  it('is what insertion makes of it, in every coding and by every way of sending it, twice', async () => {
    let count = 0;
    await fc.assert(
      fc.asyncProperty(served, async ({ html, coding, pieces, hasTag }) => {
        const path = `/${++count}`;
        const bytes = Buffer.from(html);
        const [encode, decode] = CODINGS[coding];
        pages.set(path, { body: encode(bytes), coding, pieces, hasTag });
        const wanted = Buffer.from(insert(bytes, AS_PARTS, { encoding: 'utf-8' }).page).toString('latin1');
        // The second time places may be remembered.
        for (let time = 0; time < 2; time++) {
          const answer = await gateway.ask({
            path,
            headers: { 'accept-encoding': coding, accept: 'text/html' },
          });
          expect(answer.status).to.equal(200);
          expect(decode(answer.body).toString('latin1'), JSON.stringify(html.slice(0, 300))).to.equal(wanted);
          expect(answer.headers['content-encoding'] ?? 'identity').to.equal(coding);
        }
      }),
      { numRuns: Number(process.env['PROPERTY_RUNS'] ?? 150), seed: 20261123 },
    );
    expect(await gateway.metrics.gateway.metrics()).not.to.include('failed-open');
  });
});
