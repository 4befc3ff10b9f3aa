import { setTimeout as delay } from 'node:timers/promises';
import { createServer, type ServerResponse } from 'node:http';
import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import { PageInserter, type PreparedParts } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { CachedPageSink } from '../../packages/gateway/dist/page/cached-page-sink.js';
import { CompressedCache, MAX_CACHED_BODY } from '../../packages/gateway/dist/page/compressed-cache.js';
import { CODE, startGateway, type StartedGateway } from '../support/gateway.js';
import { propertyRuns } from '../support/property-runs.js';

const TEXT = 'The next boat leaves at noon. '.repeat(40);

describe('compressed answers', () => {
  describe('in the cache', () => {
    const key = {
      host: 'mill.example',
      target: '/',
      coding: 'gzip',
      tag: 'abc',
      charset: undefined,
    } as const;
    const parts = { count: 1 } as PreparedParts;
    const body = (sign: string) => ({
      received: Buffer.from(sign),
      sent: Buffer.from(`packed ${sign}`),
      parts,
      outcomes: [],
    });

    it('are those of one address, coding, charset and set of parts', () => {
      const cache = new CompressedCache();
      const first = body('1');
      cache.keep(key, first);
      expect(cache.find(key, parts)).to.equal(first);
      expect(cache.find(key, { count: 1 } as PreparedParts), 'other parts').to.equal(undefined);
      expect(cache.find(key, undefined), 'no parts').to.equal(undefined);
      for (const other of [{ target: '/x' }, { coding: 'br' }, { tag: 'd' }, { charset: 'utf-8' }] as const)
        expect(cache.find({ ...key, ...other }, parts), JSON.stringify(other)).to.equal(undefined);
    });

    it('are not kept of an address that sends another body each time, and are of one that does so now and then', () => {
      const cache = new CompressedCache();
      for (let i = 0; i < 20; i++) {
        cache.keep(key, body(String(i)));
        if (i % 3 === 2) cache.hit(key);
        expect(cache.mayKeep(key)).to.equal(true);
      }
      for (let i = 0; i < 6; i++) cache.keep(key, body(String(i)));
      expect(cache.mayKeep(key)).to.equal(false);
      expect(cache.find(key, parts)).to.equal(undefined);
    });
  });

  it('are recognised byte for byte, however they come; every byte of another goes on', () => {
    const any = fc.record({
      known: fc.uint8Array({ maxLength: 12 }),
      coming: fc.option(fc.uint8Array({ maxLength: 12 })),
      cuts: fc.array(fc.nat(12)),
    });
    fc.assert(
      fc.property(any, ({ known, coming, cuts }) => {
        const received = Buffer.from(known);
        const body = Buffer.from(coming ?? known);
        const passed: Buffer[] = [];
        let state = 'held' as 'held' | 'same' | 'another';
        const sink = new CachedPageSink(
          { received, sent: received, parts: undefined, outcomes: [] },
          {
            same: () => (state = 'same'),
            another: (bytes) => {
              expect(state).to.equal('held');
              state = 'another';
              passed.push(...bytes);
            },
          },
        );
        const ends = [...new Set([...cuts, body.length])]
          .filter((cut) => cut <= body.length)
          .sort((a, b) => a - b);
        let start = 0;
        for (const end of ends) {
          const chunk = body.subarray(start, (start = end));
          if (state === 'held') sink.write(chunk);
          else passed.push(chunk);
        }
        if (state === 'held') sink.end();
        expect(state).to.equal(body.equals(received) ? 'same' : 'another');
        if (state === 'another') expect(Buffer.concat(passed).equals(body)).to.equal(true);
      }),
      propertyRuns(300),
    );
  });

  describe('through the gateway', function () {
    this.timeout(60_000);
    let gateway: StartedGateway | undefined;
    afterEach(async () => {
      await gateway?.close();
      gateway = undefined;
    });

    interface Answer {
      readonly sign: string;
      readonly length: number;
      readonly type: string;
      readonly hasLength: boolean;
      readonly etag: string | undefined;
      /** How much comes before the origin takes a break; negative where it takes none. */
      readonly pausedAt: number;
    }

    const bodyOf = ({ sign, length }: Answer): Buffer =>
      Buffer.from(`<!doctype html><title>t</title><body><p>${TEXT}${'y'.repeat(length)}</p>${sign}</body>`);

    async function send(answer: Answer, response: ServerResponse): Promise<void> {
      const body = bodyOf(answer);
      const { type, etag, hasLength, pausedAt } = answer;
      response.writeHead(200, {
        'content-type': type,
        ...(hasLength ? { 'content-length': String(body.length) } : {}),
        ...(etag === undefined ? {} : { etag }),
      });
      if (pausedAt < 0) {
        response.end(body);
        return;
      }
      response.write(body.subarray(0, Math.min(pausedAt, body.length)));
      await delay(15);
      response.end(body.subarray(pausedAt));
    }

    it('say what they would say if nothing had been kept, whatever came before', async () => {
      let next: Answer;
      gateway = await startGateway([createServer((_request, response) => void send(next, response))]);
      const { ask } = gateway;
      const any = fc.record<Answer>({
        sign: fc.constantFrom('a', 'b'),
        length: fc.constantFrom(0, 0, 3, 70_000, MAX_CACHED_BODY),
        type: fc.constantFrom('text/html', 'text/html; charset=utf-8', 'text/css'),
        hasLength: fc.boolean(),
        etag: fc.constantFrom(undefined, undefined, '"v1"', 'W/"v1"'),
        pausedAt: fc.constantFrom(-1, -1, -1, 0, 40, 1_000_000),
      });
      const unpack = { gzip: gunzipSync, br: brotliDecompressSync } as const;
      await fc.assert(
        fc.asyncProperty(
          fc.array(fc.tuple(any, fc.constantFrom('gzip', 'gzip', 'br')), { maxLength: 8 }),
          async (asked) => {
            for (const [answer, coding] of asked) {
              // Each twice, so that what is kept is met again.
              for (let i = 0; i < 2; i++) {
                next = answer;
                const { body, headers } = await ask({ headers: { 'accept-encoding': coding } });
                expect(headers['content-encoding']).to.equal(coding);
                const plain = bodyOf(answer).toString();
                const isPage = answer.type.startsWith('text/html');
                expect(unpack[coding](body).toString()).to.equal(
                  isPage ? plain.replace('</body>', `${CODE}</body>`) : plain,
                );
                expect(headers['pragmatica-release']).to.equal(isPage ? '7' : undefined);
              }
            }
          },
        ),
        propertyRuns(25),
      );
    });

    it('are not kept of a page into which nothing could be put', async () => {
      let fails = true;
      const answer: Answer = {
        sign: 'a',
        length: 0,
        type: 'text/html',
        hasLength: true,
        etag: undefined,
        pausedAt: -1,
      };
      gateway = await startGateway([createServer((_request, response) => void send(answer, response))], {
        createInserter: (parts, encoding) => {
          const inserter = new PageInserter(parts, { encoding });
          if (!fails) return inserter;
          let held = Buffer.alloc(0);
          inserter.held = () => held;
          inserter.write = (chunk) => {
            held = Buffer.concat([held, chunk]);
            return [];
          };
          inserter.end = () => {
            throw new Error('injected');
          };
          return inserter;
        },
      });
      const text = async (): Promise<string> =>
        gunzipSync((await gateway!.ask({ headers: { 'accept-encoding': 'gzip' } })).body).toString();
      expect(await text()).to.equal(bodyOf(answer).toString());
      fails = false;
      expect(await text()).to.include(CODE);
      fails = true;
      expect(await text(), 'kept from when it went well').to.include(CODE);
    });
  });
});
