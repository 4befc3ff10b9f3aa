import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import type { SentPolicy } from '@pragmatica/contract';
import { FactsCache, ReleasePlanner, hashSource, policyNeedsOf, type Snapshot } from '@pragmatica/core';
import { PagePolicy, ReportCounter } from '@pragmatica/gateway';
import { expect } from 'chai';
import { HOST, startGateway, type StartedGateway } from '../support/gateway.js';
import { part, set, snippet } from '../support/sets.js';

const PAGE =
  '<!DOCTYPE html><html><head><meta charset="utf-8"><title>Fares</title></head><body><p>x</p></body></html>';
const SNAPSHOT: Snapshot = set(
  snippet('counter', {
    parts: [part('head-end', 0, '<script async src="https://tallymast.example/count.js"></script>')],
  }),
  snippet('chat', { parts: [part('body-end', 0, '<script>chat()</script>')] }),
  snippet('pixel', {
    pages: { include: ['/paid'], exclude: [] },
    parts: [part('body-end', 1, '<script src="https://glintpixel.example/p.js"></script>')],
  }),
);
const UNPACKED: Readonly<Record<string, (bytes: Buffer) => Buffer>> = {
  identity: (bytes) => bytes,
  gzip: gunzipSync,
  br: brotliDecompressSync,
};
const REPORTS = 'http://gateway.localhost/policy-reports';
const SENT: SentPolicy = {
  mode: 'enforce',
  own: { isStrict: false, allowed: [], directives: { 'script-src': ["'self'"], 'base-uri': ["'self'"] } },
  reportsTo: REPORTS,
  needs: Object.fromEntries(policyNeedsOf(SNAPSHOT, 'live', new FactsCache())),
};

describe('the content policy of a page', () => {
  let gateway: StartedGateway;
  let sent: SentPolicy;
  let own: Record<string, string | string[]>;
  let isBroken: boolean;
  const reports = new ReportCounter();
  const site = createServer((request: IncomingMessage, response: ServerResponse) => {
    const isKnown = request.headers['if-none-match']?.includes('"v1"') === true;
    response.writeHead(isKnown ? 304 : 200, { 'content-type': 'text/html', etag: '"v1"', ...own });
    response.end(isKnown ? undefined : PAGE);
  });
  const release = { number: 7, digest: 'ab'.repeat(32), planner: new ReleasePlanner(SNAPSHOT) };
  let address = '';

  before(async () => {
    gateway = await startGateway([site], {
      reports,
      releases: {
        find: (host) =>
          host === HOST
            ? {
                ...{ host, site: 'mill', environment: 'live', release },
                origins: [address],
                policy: isBroken
                  ? ({
                      tag: 'x',
                      apply: () => {
                        throw new Error('broken');
                      },
                    } as unknown as PagePolicy)
                  : new PagePolicy(sent),
              }
            : undefined,
      },
    });
    const { port } = site.address() as { port: number };
    address = `http://127.0.0.1:${port}`;
  });
  beforeEach(() => {
    sent = SENT;
    own = {};
    isBroken = false;
  });
  after(() => gateway.close());

  const CHAT = hashSource('chat()');

  it('is the site’s own, with what this page’s parts need', async () => {
    own = { 'content-security-policy': "default-src 'none'; script-src 'self'" };
    const { headers } = await gateway.ask({ path: '/' });
    expect(headers['content-security-policy']).to.equal(
      `default-src 'none'; script-src 'self' tallymast.example ${CHAT}; report-uri ${REPORTS}`,
    );
    const paid = await gateway.ask({ path: '/paid' });
    expect(paid.headers['content-security-policy']).to.contain('glintpixel.example');
  });

  it('is made for a page that has none', async () => {
    const { headers, text } = await gateway.ask({ path: '/' });
    expect(headers['content-security-policy']).to.equal(
      `script-src 'self' 'report-sample' tallymast.example ${CHAT}; base-uri 'self'; report-uri ${REPORTS}`,
    );
    expect(text).to.contain('chat()').and.not.contain('nonce=');
  });

  it('stops nothing while it is on trial', async () => {
    sent = { ...SENT, mode: 'report' };
    own = { 'content-security-policy': "script-src 'self'; report-uri https://own.example/csp" };
    const { headers } = await gateway.ask({ path: '/' });
    expect(headers['content-security-policy']).to.equal(own['content-security-policy']);
    expect(headers['content-security-policy-report-only']).to.equal(
      `script-src 'self' tallymast.example ${CHAT}; report-uri ${REPORTS}`,
    );
  });

  it('keeps the site’s own collector, several policies, and a trial of its own', async () => {
    own = {
      'content-security-policy': "script-src 'self'; report-uri /own, frame-ancestors 'none'",
      'content-security-policy-report-only': "img-src 'self'",
    };
    const { headers } = await gateway.ask({ path: '/' });
    expect(headers['content-security-policy']).to.equal(
      `script-src 'self' tallymast.example ${CHAT}; report-uri /own, frame-ancestors 'none'; report-uri ${REPORTS}`,
    );
    expect(headers['content-security-policy-report-only']).to.equal("img-src 'self'");
  });

  it('gives the parts the nonce that the page has', async () => {
    own = { 'content-security-policy': "script-src 'nonce-abc123' 'strict-dynamic'" };
    const { headers, text } = await gateway.ask({ path: '/' });
    expect(headers['content-security-policy']).to.contain("'nonce-abc123' 'strict-dynamic'");
    expect(text).to.contain('<script nonce="abc123" async src="https://tallymast.example/count.js">');
    expect(text).to.contain('<script nonce="abc123">chat()</script>');
  });

  it('makes a nonce that no two answers share, packed or not', async () => {
    sent = { ...SENT, own: { isStrict: true, allowed: [], directives: { 'script-src': [] } } };
    const seen = new Set<string>();
    for (const encoding of ['identity', 'identity', 'gzip', 'gzip', 'br', 'br']) {
      const { headers, body } = await gateway.ask({ path: '/', headers: { 'accept-encoding': encoding } });
      const nonce = /'nonce-([^']+)' 'strict-dynamic'/.exec(String(headers['content-security-policy']))![1]!;
      const text = UNPACKED[encoding]!(body).toString();
      expect(text.split(`nonce="${nonce}"`).length, text).to.equal(3);
      seen.add(nonce);
    }
    expect(seen.size).to.equal(6);
  });

  it('is no reason for a page to be late or other: what fails leaves it as it is', async () => {
    isBroken = true;
    own = { 'content-security-policy': "script-src 'self'" };
    const { headers, text, status } = await gateway.ask({ path: '/' });
    expect(status).to.equal(200);
    expect(headers['content-security-policy']).to.equal("script-src 'self'");
    expect(text).to.contain('chat()');
  });

  it('makes another representation of the page, and goes with "not modified", too', async () => {
    own = { 'content-security-policy': "script-src 'self'" };
    const first = await gateway.ask({ path: '/' });
    const tag = String(first.headers['etag']);
    const again = await gateway.ask({ path: '/', headers: { 'if-none-match': tag, accept: 'text/html' } });
    expect(again.status).to.equal(304);
    expect(again.headers['content-security-policy']).to.equal(first.headers['content-security-policy']);
    sent = { ...SENT, mode: 'report' };
    const other = await gateway.ask({ path: '/', headers: { 'if-none-match': tag, accept: 'text/html' } });
    expect(other.status).to.equal(200);
  });

  it('leaves what is no page alone', async () => {
    own = { 'content-type': 'image/png', 'content-security-policy': "script-src 'self'" };
    const { headers } = await gateway.ask({ path: '/boat.png' });
    expect(headers['content-security-policy']).to.equal("script-src 'self'");
  });

  describe('when browsers report', () => {
    const report = (body: string, method = 'POST', path = '/policy-reports') =>
      gateway.ask({
        host: 'gateway.localhost',
        path,
        method,
        body,
        headers: { 'content-type': 'application/csp-report' },
      });
    const about = (host: string): string =>
      JSON.stringify({
        'csp-report': {
          'document-uri': `http://${host}/fares`,
          'effective-directive': 'img-src',
          'blocked-uri': 'https://a.example/x.png',
        },
      });

    it('counts what is of hosts that are served, and answers all alike', async () => {
      for (const body of [
        about(HOST),
        about(HOST),
        about('foreign.example'),
        'nonsense',
        'x'.repeat(200_000),
      ])
        expect((await report(body)).status).to.equal(204);
      expect(reports.take()).to.deep.equal([
        {
          ...{ host: HOST, directive: 'img-src', blocked: 'https://a.example', source: '', sample: '' },
          ...{ path: '/fares', isEnforced: true, count: 2 },
        },
      ]);
      expect(reports.take()).to.deep.equal([]);
    });

    it('lets browsers of any site ask before, and takes nothing else', async () => {
      const asked = await report('', 'OPTIONS');
      expect(asked.headers).to.include({ 'access-control-allow-origin': '*' });
      expect((await report('', 'PUT')).status).to.equal(405);
    });

    it('at a site’s own host is the site’s', async () => {
      const { text } = await gateway.ask({ path: '/policy-reports', method: 'POST', body: about(HOST) });
      expect(text).to.contain('<title>Fares</title>');
      expect(reports.take()).to.deep.equal([]);
    });

    it('keeps only so many kinds', async () => {
      for (let i = 0; i < 60; i++)
        await report(
          JSON.stringify(
            Array.from({ length: 50 }, (_, j) => ({
              type: 'csp-violation',
              body: {
                documentURL: `http://${HOST}/`,
                effectiveDirective: 'img-src',
                blockedURL: `https://h${i}x${j}.example/`,
              },
            })),
          ),
        );
      expect(reports.take().length).to.equal(500);
    });
  });
});
