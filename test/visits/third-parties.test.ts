import { expect } from 'chai';
import fc from 'fast-check';
import {
  answerTo,
  answeredWords,
  isReport,
  reportsIn,
  summarizeVisits,
  type OutgoingRequest,
  type ThirdPartyRules,
} from '@pragmatica/core';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { opened, request } from '../support/evidence.js';
import { propertyRuns } from '../support/property-runs.js';
import { set } from '../support/sets.js';
import { PAGE, script, verdict, visitedSite, type VisitedSite } from '../support/visited-site.js';

const to = (url: string, more: Partial<OutgoingRequest> = {}): OutgoingRequest => ({
  url,
  method: 'GET',
  kind: 'image',
  ...more,
});
const post = (url: string, contentType?: string): OutgoingRequest =>
  to(url, { kind: 'fetch', method: 'POST', ...(contentType === undefined ? {} : { contentType }) });

describe('a request to another host', () => {
  it('is a report where it tells something and needs no answer', () => {
    const reports = [
      to('https://c.example/', { kind: 'beacon', method: 'POST' }),
      to('https://c.example/collect?v=1'),
      to('https://c.example/p.gif?page=%2F'),
      post('https://c.example/hit'),
      post('https://c.example/hit', 'text/plain;charset=UTF-8'),
    ];
    for (const one of reports) expect(isReport(one), `${one.method} ${one.url}`).to.equal(true);
    const others = [
      to('https://c.example/p.gif'),
      to('https://c.example/ship.jpg?width=200'),
      to('https://c.example/ship.webp?a#b'),
      to('https://c.example/#?x'),
      to('https://c.example/c.js?id=1', { kind: 'script' }),
      to('https://c.example/config?id=1', { kind: 'fetch' }),
      post('https://c.example/session', 'application/json'),
      to('https://c.example/frame?id=1', { kind: 'document' }),
    ];
    for (const one of others) expect(isReport(one), `${one.kind} ${one.url}`).to.equal(false);
  });

  it('gets what the rule for the most exact name says, and else what all get', () => {
    const rules: ThirdPartyRules = {
      usual: 'stand-ins',
      hosts: [
        { host: 'tide.example', answer: 'blocked' },
        { host: 'api.tide.example', answer: 'real' },
        { host: 'chat.example', answer: 'stand-ins' },
      ],
    };
    expect(answerTo(to('https://tide.example/c.js', { kind: 'script' }), rules)).to.equal('blocked');
    expect(answerTo(to('https://a.tide.example:8443/p?x=1'), rules)).to.equal('blocked');
    expect(answerTo(to('https://eu.api.tide.example/p?x=1'), rules)).to.equal('real');
    expect(answerTo(to('https://ebbtide.example/p?x=1'), rules)).to.equal('stand-ins');
    expect(answerTo(to('https://other.example/c.js', { kind: 'script' }), rules)).to.equal('real');
    // Whoever names a host means all that is sent there.
    expect(answerTo(post('https://chat.example/say', 'application/json'), rules)).to.equal('stand-ins');
    expect(answerTo(post('https://other.example/say', 'application/json'), rules)).to.equal('real');
  });

  it('gets its real answer by no rule, and whatever the address is nothing throws', () => {
    const kinds = ['image', 'fetch', 'beacon', 'script', 'other'] as const;
    const answers = ['real', 'stand-ins', 'blocked'] as const;
    const rule = fc.record({ host: fc.domain(), answer: fc.constantFrom(...answers) });
    fc.assert(
      fc.property(
        fc.oneof(fc.webUrl({ withQueryParameters: true }), fc.string()),
        fc.constantFrom(...kinds),
        fc.constantFrom('GET', 'POST'),
        fc.array(rule, { maxLength: 4 }),
        (url, kind, method, hosts) => {
          const one = { url, kind, method };
          expect(answerTo(one, { usual: 'real', hosts: [] })).to.equal('real');
          expect(answerTo(one, { usual: 'blocked', hosts: [] })).to.equal('blocked');
          expect(answers).to.include(answerTo(one, { usual: 'stand-ins', hosts }));
        },
      ),
      propertyRuns(100),
    );
  });
});

describe('what anybody was told', () => {
  const told = (...requests: Parameters<typeof opened>[1]['requests'] & object) => {
    const found = opened(set(), { requests });
    return reportsIn(found.load, found);
  };

  it('is read out of addresses, forms, JSON and text', () => {
    const sent = (body: string) =>
      told(request('https://c.example/hit?v=2', { kind: 'beacon', method: 'POST', status: 204, body }))[0]!
        .fields;
    expect(sent('')).to.deep.equal([{ name: 'v', value: '2' }]);
    expect(sent('page=%2Ffares&ref=')).to.deep.include.members([
      { name: 'page', value: '/fares' },
      { name: 'ref', value: '' },
    ]);
    expect(sent('{"id":"T-1","events":[{"name":"visit","n":1}],"none":null}').slice(1)).to.deep.equal([
      { name: 'id', value: 'T-1' },
      { name: 'events.0.name', value: 'visit' },
      { name: 'events.0.n', value: '1' },
      { name: 'none', value: 'null' },
    ]);
    expect(sent('hello there, a=b').at(-1)).to.deep.equal({ name: '', value: 'hello there, a=b' });
    expect(sent('{"cut":"of').at(-1)).to.deep.equal({ name: '', value: '{"cut":"of' });
  });

  it('says who answered, and leaves out what only asks', () => {
    const beacon = { kind: 'beacon', method: 'POST' } as const;
    const found = told(
      request('https://a.example/1', { ...beacon, status: 204 }),
      request('https://b.example/2', { ...beacon, status: 204, standIn: true }),
      request('https://c.example/3', { ...beacon, failure: 'no-answer' }),
      request('https://d.example/4', { ...beacon, failure: 'forbidden' }),
      request('https://e.example/c.js?x=1', { kind: 'script', status: 200 }),
      request('https://f.example/p?x=1', { kind: 'image', status: 302, redirect: 'https://g.example/p?x=1' }),
      request('https://g.example/p?x=1', { kind: 'image', status: 200 }),
    );
    expect(found.map(({ host, by }) => `${host} ${by}`)).to.deep.equal([
      'a.example host',
      'b.example stand-in',
      'c.example nobody',
      'd.example blocked',
      'g.example host',
    ]);
  });

  it('is bounded, however much a page tells', () => {
    const body = JSON.stringify(Object.fromEntries(Array.from({ length: 90 }, (_, at) => [`k${at}`, 'x'])));
    const deep = `${'{"a":'.repeat(300)}1${'}'.repeat(300)}`;
    const many = Array.from({ length: 400 }, (_, at) =>
      request(`https://c.example/${at}?long=${'x'.repeat(900)}`, { kind: 'beacon', method: 'POST', body }),
    );
    const found = told(...many);
    expect(found).to.have.length(100);
    expect(found[0]!.fields).to.have.length(40);
    expect(found[0]!.fields[0]!.value).to.have.length(200);
    const wide = JSON.stringify(
      Object.fromEntries(Array.from({ length: 40 }, (_, at) => [`k${at}`, 'x'.repeat(400)])),
    );
    const much = told(...many.map((one) => ({ ...one, body: wide, url: `${one.url}${'y'.repeat(9_000)}` })));
    expect(JSON.stringify(much).length).to.be.below(300_000);
    expect(much.at(-1)!.fields).to.deep.equal([]);
    expect(
      told(request('https://c.example/', { kind: 'beacon', method: 'POST', body: deep }))[0]!.fields,
    ).to.have.length(1);
  });

  it('is summed up by snippet and host, the most first', () => {
    const report = (host: string, by: 'host' | 'stand-in') => ({
      ...{
        snippet: 'count',
        name: 'Count',
        host,
        url: `https://${host}/`,
        atMs: 0,
        by,
        status: 204,
        fields: [],
      },
    });
    const judged = {
      ...{ url: '', status: 200, snippets: [], banners: [], overlaps: [], covered: [], doubled: [] },
      ...{ stages: [], weights: [], owners: { requests: [], exceptions: [], elements: [], writes: [] } },
    };
    const visit = (...reports: ReturnType<typeof report>[]) => ({
      ...{ number: 1, path: '/', failure: null, script: { device: 'phone', steps: [] } as const },
      judged: [{ ...judged, reports }, judged],
    });
    const { reports } = summarizeVisits([
      visit(report('a.example', 'host'), report('b.example', 'host')),
      visit(report('b.example', 'stand-in')),
    ]);
    expect(reports.map(({ host, count, by }) => [host, count, answeredWords(by)])).to.deep.equal([
      ['b.example', 2, '1 answered, 1 answered by a stand-in'],
      ['a.example', 1, '1 answered'],
    ]);
  });
});

describe('stand-ins in a real browser', function () {
  this.timeout(60_000);
  let site: VisitedSite;
  let asked: string[] = [];

  before(async () => {
    site = await visitedSite();
  });
  after(() => site.close());

  const noting =
    (type = 'application/json', text = '{}') =>
    (incoming: IncomingMessage, response: ServerResponse): void => {
      const host = (incoming.headers.host ?? '').replace(/:\d+$/, '');
      asked.push(`${incoming.method} ${host}${(incoming.url ?? '').split('?', 1)[0]}`);
      response
        .writeHead(200, {
          'content-type': type,
          'access-control-allow-origin': incoming.headers.origin ?? '*',
          'access-control-allow-headers': 'content-type',
        })
        .end(text);
    };

  const COUNTER = `
    new Image().src = 'http://tidecount.localhost:PORT/tell?account=T-7&event=visit';
    navigator.sendBeacon('http://tidecount.localhost:PORT/beacon', JSON.stringify({ id: 'T-7', page: location.pathname }));
    fetch('http://tidecount.localhost:PORT/plain', { method: 'POST', body: 'seen', credentials: 'include' })
      .then((answer) => document.body.append(' plain ' + answer.status), () => document.body.append(' plain failed'));`;
  const CHAT = `
    fetch('http://quaychat.localhost:PORT/config').then((answer) => document.body.append(' config ' + answer.status));
    fetch('http://quaychat.localhost:PORT/session', { method: 'POST', body: '{"a":1}', headers: { 'content-type': 'application/json' } })
      .then((answer) => document.body.append(' session ' + answer.status), () => document.body.append(' session failed'));`;

  const look = (thirdParties: ThirdPartyRules) => {
    asked = [];
    const at = (text: string): string => text.replaceAll(':PORT', `:${site.port}`);
    site.answers = {
      'tidecount.localhost/c.js': script(at(COUNTER)),
      'tidecount.localhost/*': noting('image/gif', ''),
      'quaychat.localhost/c.js': script(at(CHAT)),
      'quaychat.localhost/ship.png': noting('image/png', ''),
      'quaychat.localhost/*': noting(),
    };
    return site.visit({
      page: PAGE.replace('</body>', '<img src="http://quaychat.localhost:PORT/ship.png?w=9" alt=""></body>'),
      snippets: [
        { key: 'count', code: '<script async src="http://tidecount.localhost:PORT/c.js"></script>' },
        { key: 'chat', at: 'body-end', code: '<script src="http://quaychat.localhost:PORT/c.js"></script>' },
      ],
      order: { thirdParties },
    });
  };

  it('take what is reported, and let through what a page needs', async () => {
    const seen = await look({ usual: 'stand-ins', hosts: [] });
    expect(asked).to.have.members([
      'GET quaychat.localhost/config',
      'GET quaychat.localhost/ship.png',
      'OPTIONS quaychat.localhost/session',
      'POST quaychat.localhost/session',
    ]);
    const { dom } = seen.evidence.loads[0]!;
    expect(dom).to.include('plain 204').and.include('config 200').and.include('session 200');
    expect(verdict(seen, 'count')).to.equal('well');
    const reported = seen.judged[0]!.snippets.find(({ snippet }) => snippet === 'count')!.rungs.find(
      ({ rung }) => rung === 'reported',
    )!;
    expect(reported.message).to.match(/A stand-in answered, so nothing was counted there\.$/);
    const reports = seen.judged[0]!.reports!;
    expect(
      reports.map(({ snippet, url, by }) => `${snippet} ${new URL(url).pathname} ${by}`),
    ).to.have.members([
      'count /tell stand-in',
      'count /beacon stand-in',
      'count /plain stand-in',
      'chat /session host',
    ]);
    const fields = reports.flatMap((one) => one.fields.map(({ name, value }) => `${name}=${value}`));
    expect(fields).to.include.members(['account=T-7', 'event=visit', 'id=T-7', 'page=/', '=seen', 'a=1']);
  });

  it('take all that is sent to a host that is named, also what asks for leave first', async () => {
    const { evidence, judged } = await look({
      usual: 'real',
      hosts: [{ host: 'quaychat.localhost', answer: 'stand-ins' }],
    });
    expect(asked.filter((one) => one.includes('quaychat'))).to.have.members([
      'GET quaychat.localhost/config',
      'GET quaychat.localhost/ship.png',
    ]);
    expect(asked).to.include('GET tidecount.localhost/tell').and.include('POST tidecount.localhost/beacon');
    expect(evidence.loads[0]!.dom).to.include('session 204');
    expect(judged[0]!.reports!.find(({ host }) => host.startsWith('quaychat'))!.by).to.equal('stand-in');
  });

  it('are asked by nobody where a host gets nothing', async () => {
    const { judged } = await look({
      usual: 'real',
      hosts: [{ host: 'tidecount.localhost', answer: 'blocked' }],
    });
    expect(asked.filter((one) => one.includes('tidecount'))).to.deep.equal([]);
    expect(judged[0]!.snippets.find(({ snippet }) => snippet === 'count')!.missed).to.equal('loaded');
    expect(asked).to.include('GET quaychat.localhost/config');
  });
});
