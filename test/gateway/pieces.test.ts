import { hasTagOf, variantEtag } from '@pragmatica/core';
import { Breaker } from '@pragmatica/gateway';
import { expect } from 'chai';
import {
  endToEndHeaders,
  rewriteOriginUrls,
  originHeaders,
} from '../../packages/gateway/dist/page/headers.js';

const REQUEST = {
  host: 'mill.example',
  client: { address: '192.0.2.7', protocol: 'http', isForwarded: false },
  peer: '192.0.2.7',
  pseudonym: 'pragmatica',
  partsTag: 'abc',
  mayInsert: true,
} as const;

describe('headers on their way', () => {
  it('to the origin keep only codings that can be undone, where something may be put in', () => {
    const sent = (value: string, mayInsert = true) =>
      originHeaders({ 'accept-encoding': value }, { ...REQUEST, mayInsert })['accept-encoding'];
    expect(sent('gzip, br;q=0.5, zstd')).to.equal('gzip, br;q=0.5');
    expect(sent('zstd')).to.equal('identity');
    expect(sent('zstd', false)).to.equal('zstd');
  });

  it('to the origin carry conditions only as far as they hold', () => {
    const sent = (condition: string, accept = 'text/html', partsTag = 'abc') =>
      originHeaders({ 'if-none-match': condition, accept }, { ...REQUEST, partsTag })['if-none-match'];
    expect(sent('W/"1;pragmatica-abc"')).to.equal('W/"1"');
    expect(sent('W/"1;pragmatica-old"'), 'another release').to.equal(undefined);
    expect(sent('"1"'), 'the page without parts').to.equal(undefined);
    expect(sent('"1"', 'image/png'), 'no page').to.equal('"1"');
    expect(sent('W/"1;pragmatica-abc", W/"2;pragmatica-old"')).to.equal('W/"1"');
    const dates = originHeaders(
      { 'if-modified-since': 'x', range: 'bytes=0-1', accept: 'text/html' },
      REQUEST,
    );
    expect(dates).not.to.have.any.keys('if-modified-since', 'range');
  });

  it('name addresses of both kinds in Forwarded, and nothing that could end its quotes', () => {
    const forwarded = (peer: string, host = 'mill.example') =>
      originHeaders({}, { ...REQUEST, peer, host })['forwarded'];
    expect(forwarded('2001:db8::1')).to.equal('for="[2001:db8::1]";host="mill.example";proto=http');
    expect(forwarded('')).to.equal('for=unknown;host="mill.example";proto=http');
    expect(forwarded('192.0.2.7', 'a"b\\c')).to.equal('for=192.0.2.7;host="abc";proto=http');
  });

  it('of one connection end there', () => {
    expect(
      endToEndHeaders({
        connection: 'close, X-Own',
        'x-own': '1',
        'x-kept': '2',
        upgrade: 'h2c',
        trailer: 'a',
      }),
    ).to.deep.equal({ 'x-kept': '2' });
  });

  it('carry the release in the tag, which is weak from then on', () => {
    expect(variantEtag('"1"', 'abc')).to.equal('W/"1;pragmatica-abc"');
    expect(variantEtag('W/"1"', 'abc')).to.equal('W/"1;pragmatica-abc"');
    expect(hasTagOf('"x", W/"1;pragmatica-abc"', 'abc')).to.equal(true);
    expect(hasTagOf('W/"1;pragmatica-abc"', 'abcd')).to.equal(false);
    expect(hasTagOf(undefined, 'abc')).to.equal(false);
  });

  it('that name the origin name the public host', () => {
    const cases: readonly [string, string][] = [
      ['http://origin.example:8080/a?b#c', 'http://mill.example/a?b#c'],
      ['http://origin.example:8080', 'http://mill.example'],
      ['http://origin.example/a', 'http://origin.example/a'],
      ['https://origin.example:8080/a', 'https://origin.example:8080/a'],
      ['/a', '/a'],
      ['http://', 'http://'],
    ];
    for (const [given, wanted] of cases) {
      const headers = { location: given, 'content-location': given };
      rewriteOriginUrls(headers, 'http://origin.example:8080', 'mill.example', 'http');
      expect(headers).to.deep.equal({ location: wanted, 'content-location': wanted });
    }
  });

  it('keep a cookie’s domain unless it is the origin’s own', () => {
    const cookie = (value: string): unknown => {
      const headers: Record<string, string | string[]> = { 'set-cookie': value };
      rewriteOriginUrls(headers, 'http://origin.inner.example', 'www.mill.example:8080', 'http');
      return [headers['set-cookie']].flat()[0];
    };
    expect(cookie('a=1; Domain=origin.inner.example; Secure')).to.equal('a=1; Secure');
    expect(cookie('a=1; domain=.inner.example')).to.equal('a=1');
    expect(cookie('a=1; domain=mill.example')).to.equal('a=1; domain=mill.example');
    expect(cookie('a=1; domain=example')).to.equal('a=1; domain=example');
    expect(cookie('a=1; Path=/')).to.equal('a=1; Path=/');
  });
});

describe('the breaker of a page', () => {
  it('opens after three failures in a row, lets one try after a minute, and closes when that goes well', () => {
    let now = 0;
    const breaker = new Breaker(() => now);
    const fail = (times: number): boolean[] => Array.from({ length: times }, () => breaker.failed('/a'));
    expect(fail(2)).to.deep.equal([false, false]);
    expect(breaker.allows('/a')).to.equal(true);
    expect(fail(1)).to.deep.equal([true]);
    expect(breaker.allows('/a')).to.equal(false);
    expect(breaker.allows('/b'), 'another page').to.equal(true);
    now = 59_999;
    expect(breaker.allows('/a')).to.equal(false);
    now = 60_000;
    expect(breaker.allows('/a')).to.equal(true);
    expect(fail(1), 'it fails again').to.deep.equal([true]);
    expect(breaker.allows('/a')).to.equal(false);
    now = 200_000;
    breaker.succeeded('/a');
    expect(fail(2)).to.deep.equal([false, false]);
  });

  it('forgets the page that failed longest ago rather than grow', () => {
    const breaker = new Breaker(() => 0);
    for (let i = 0; i < 3; i++) breaker.failed('/first');
    for (let i = 0; i < 1_000; i++) breaker.failed(`/${i}`);
    expect(breaker.allows('/first')).to.equal(true);
  });
});
