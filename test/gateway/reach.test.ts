import { createServer, type OutgoingHttpHeaders } from 'node:http';
import { DEVICE_HEADERS, parseWeekly, waitingCode, type Limits, type Snapshot } from '@pragmatica/core';
import { expect } from 'chai';
import { startGateway, type StartedGateway } from '../support/gateway.js';
import { part, set, snippet } from '../support/sets.js';

const PAGE = '<!doctype html><title>t</title><body><p>x</p></body>';
const HTML = { 'content-type': 'text/html; charset=utf-8' };
const MINUTE = 60_000;

const only = (name: string, include: string[], limits: Limits = {}) =>
  snippet(name, { pages: { include, exclude: [] }, limits, parts: [part('body-end', 0, `<i>${name}</i>`)] });

/** Open from some minutes ago until in an hour and a half, whatever hour it is. */
function openNow(): Limits {
  const time = (moment: number): string => new Date(moment).toISOString().slice(11, 16);
  const now = Date.now();
  const span = { from: time(now - 30 * MINUTE), to: time(now + 90 * MINUTE) };
  return {
    hours: {
      weekly: Object.fromEntries(
        ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((day) => [day, [span]]),
      ),
    },
  };
}

/** Made when it is needed: its hours are about now. */
function release(): Snapshot {
  const made = set(
    only('plain', ['/plain', '/phone', '/agreed', '/hours']),
    only('phone', ['/phone'], { devices: ['phone'] }),
    only('agreed', ['/agreed'], { consent: ['adverts'] }),
    only('hours', ['/hours', '/only-hours'], openNow()),
    only('closed', ['/closed'], { hours: { weekly: parseWeekly('mon 00:00-00:01'), last: '2020-01-01' } }),
    only('staging', ['/plain'], { environment: 'staging' }),
    only('waiting', ['/waiting'], { visitor: { afterSeconds: 1 } }),
  );
  const categories = [{ key: 'adverts', name: 'Adverts' }];
  return {
    ...made,
    site: { ...made.site, consent: { categories, cookie: 'agreed', format: { kind: 'list' } } },
  };
}

describe('the gateway and who gets what', () => {
  let gateway: StartedGateway | undefined;
  let sent: OutgoingHttpHeaders = {};
  let seen: Record<string, unknown> = {};
  afterEach(() => gateway?.close());

  async function start(headers: OutgoingHttpHeaders = {}): Promise<StartedGateway['ask']> {
    sent = headers;
    const origin = createServer((request, response) => {
      seen = request.headers;
      if (request.headers['if-none-match']?.includes('"1"') === true) {
        response.writeHead(304, { etag: '"1"', ...sent }).end();
        return;
      }
      response.writeHead(200, { ...HTML, etag: '"1"', ...sent }).end(PAGE);
    });
    gateway = await startGateway([origin], { snapshot: release(), compress: false });
    return gateway.ask;
  }
  const names = (text: string): string[] => [...text.matchAll(/<i>(\w+)<\/i>/g)].map((match) => match[1]!);

  it('depends on nothing where nothing asks', async () => {
    const ask = await start({ 'cache-control': 'max-age=86400' });
    const { text, headers } = await ask({ path: '/plain' });
    expect(names(text), 'not what is for staging').to.deep.equal(['plain']);
    expect(headers).not.to.have.any.keys('vary', 'accept-ch');
    expect(headers['cache-control']).to.equal('max-age=86400');
  });

  it('tells devices apart, and says so to caches and browsers', async () => {
    const ask = await start({ vary: 'Accept-Encoding, user-agent' });
    const desktop = await ask({ path: '/phone' });
    const phone = await ask({ path: '/phone', headers: { 'sec-ch-ua-mobile': '?1' } });
    expect([names(desktop.text), names(phone.text)]).to.deep.equal([['plain'], ['phone', 'plain']]);
    const vary = ['Accept-Encoding', 'user-agent', ...DEVICE_HEADERS.slice(0, 3)].join(', ');
    for (const { headers } of [desktop, phone]) {
      expect(headers['vary']).to.equal(vary);
      expect(headers['accept-ch']).to.equal('Sec-CH-UA-Form-Factors');
    }
    expect(desktop.headers['etag']).not.to.equal(phone.headers['etag']);
  });

  it('puts what waits for consent into the page only with it', async () => {
    const ask = await start();
    const without = await ask({ path: '/agreed' });
    const withIt = await ask({ path: '/agreed', headers: { cookie: 'a=1; agreed=adverts' } });
    expect([names(without.text), names(withIt.text)]).to.deep.equal([['plain'], ['agreed', 'plain']]);
    expect([without.headers['vary'], withIt.headers['vary']]).to.deep.equal(['Cookie', 'Cookie']);
  });

  it('never calls a page unchanged that was made for another', async () => {
    const ask = await start();
    const accept = 'text/html';
    const agreed = { cookie: 'agreed=adverts', accept };
    const first = await ask({ path: '/agreed', headers: agreed });
    const tag = first.headers['etag']!;
    const same = await ask({ path: '/agreed', headers: { ...agreed, 'if-none-match': tag } });
    expect([same.status, same.headers['etag'], same.headers['vary']]).to.deep.equal([304, tag, 'Cookie']);
    const other = await ask({ path: '/agreed', headers: { accept, 'if-none-match': tag } });
    expect([other.status, names(other.text)]).to.deep.equal([200, ['plain']]);
    expect(seen).not.to.have.property('if-none-match');
  });

  it('lets no cache keep a page beyond the next change of its hours', async () => {
    const ask = await start({
      'cache-control': 'public, max-age=86400, s-maxage=60, stale-while-revalidate=999, immutable',
      age: '10',
      expires: new Date(Date.now() + 86_400_000).toUTCString(),
    });
    const { text, headers } = await ask({ path: '/hours' });
    expect(names(text)).to.deep.equal(['hours', 'plain']);
    const [, age] = /^public, max-age=(\d+), s-maxage=60$/.exec(headers['cache-control'] as string)!;
    expect(Number(age)).to.be.within(88 * 60, 90 * 60 + 10);
    expect(Date.parse(headers['expires']!) - Date.now()).to.be.within(87 * MINUTE, 90 * MINUTE);
    expect(headers['vary']).to.equal(undefined);
  });

  it('has a page asked for again whose age nobody says, and leaves what may not be kept as it is', async () => {
    const ask = await start();
    expect((await ask({ path: '/only-hours' })).headers['cache-control']).to.equal('no-cache');
    sent = { 'cache-control': 'no-store' };
    expect((await ask({ path: '/only-hours' })).headers['cache-control']).to.equal('no-store');
    sent = {};
    expect((await ask({ path: '/closed' })).headers, 'it never opens again').not.to.have.property(
      'cache-control',
    );
  });

  it('wraps what waits in the browser', async () => {
    const ask = await start();
    const { text } = await ask({ path: '/waiting' });
    const wrapped = waitingCode('<i>waiting</i>', 'waiting', { visitor: { afterSeconds: 1 } });
    expect(wrapped).to.match(/^<template><i>waiting<\/i><\/template><script>.*"waiting".*<\/script>$/);
    expect(text).to.include(`${wrapped}</body>`);
  });
});
