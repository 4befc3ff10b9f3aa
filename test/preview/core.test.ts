import {
  FactsCache,
  ContentPolicy,
  previewPage,
  type PageToPreview,
  type PreviewGround,
} from '@pragmatica/core';
import { expect } from 'chai';
import { MONDAY_TEN, part, set, snippet } from '../support/sets.js';

const counter = snippet('counter', { parts: [part('head-end', 0, '<script>count()</script>')] });
const chat = snippet('chat', {
  name: 'Chat',
  parts: [part('body-end', 0, '<script src="https://chat.example/c.js"></script>')],
});
const PAGE = '<!doctype html><html><head><title>x</title></head><body><p>hi</p></body></html>';
const published = set(counter);
const ground: PreviewGround = {
  published,
  shown: set(counter, chat),
  release: null,
  host: 'www.example.com',
  environment: 'live',
  origin: 'https://www.example.com',
  isPolicyOurs: true,
  previewOrigin: 'http://preview.example',
  leaveAddress: '/leave',
  until: 'today 17:00',
};
const shown = (page: Partial<PageToPreview> = {}, change: Partial<PreviewGround> = {}) =>
  previewPage(
    { target: '/', html: PAGE, headers: {}, asked: {}, cookies: '', at: MONDAY_TEN, ...page },
    { ...ground, ...change },
    new FactsCache(),
  );
const count = (text: string, what: string): number => text.split(what).length - 1;

describe('a page in a preview', () => {
  it('has the draft in the place of what is published, and a mark that says what differs', () => {
    const live = PAGE.replace('</head>', '<script>count()</script></head>');
    const { html, headers } = shown({ html: live });
    expect(count(html, '<script>count()</script>')).to.equal(1);
    expect(html).to.include('<script src="https://chat.example/c.js"></script></body>');
    expect(html).to.include('draft, not published').and.include('“Chat” is added.');
    expect(headers).to.deep.equal({});
  });

  it('says so where nothing differs, and where nothing is published', () => {
    expect(shown({}, { shown: published }).html).to.include('the draft changes nothing here');
    expect(shown({}, { published: null }).html).to.include('Nothing is published on www.example.com yet');
  });

  it('brings no line of ours, whose parts stand in it', () => {
    const line = '<script src="https://code.example/one/s.js"></script>';
    const html = PAGE.replace('</head>', `${line}</head>`);
    const { key } = published.site;
    const withLine = html.replace('/one/s.js', `/one/${key}.js`);
    expect(count(shown({ html: withLine }).html, '/one/')).to.equal(0);
    expect(count(shown({ html: html.replace('/one/s.js', '/one/another.js') }).html, '/one/')).to.equal(1);
  });

  it('lets its own policy admit what the draft needs, and no more', () => {
    const policy = "default-src 'self'; script-src 'self' https://old.example; upgrade-insecure-requests";
    const { html, headers } = shown({ headers: { 'content-security-policy': policy } });
    const value = headers['content-security-policy']!;
    const sources = new ContentPolicy(value).directives.get('script-src')!;
    expect(sources).to.include.members(["'self'", 'https://old.example', 'chat.example']);
    expect(sources.filter((source) => source.startsWith("'sha256-"))).to.have.length(2);
    // The preview has no encryption: it cannot ask for its own files with it.
    expect(value).not.to.include('upgrade-insecure-requests');
    expect(html).to.include('draft, not published');
    const kept = shown(
      { headers: { 'content-security-policy': policy } },
      { previewOrigin: 'https://preview.example' },
    );
    expect(kept.headers['content-security-policy']).to.include('upgrade-insecure-requests');
  });

  it('lets in no more than visitors’ pages will: the mark alone where no policy is ours', () => {
    const policy = "default-src 'self'; script-src 'self'";
    const { headers } = shown({ headers: { 'content-security-policy': policy } }, { isPolicyOurs: false });
    const sources = new ContentPolicy(headers['content-security-policy']!).directives.get('script-src')!;
    expect(sources[0]).to.equal("'self'");
    expect(sources.slice(1)).to.have.length(1);
    expect(sources[1]).to.match(/^'sha256-/);
  });

  it('uses the nonce of its policy for the mark, too', () => {
    const { html, headers } = shown({
      headers: { 'content-security-policy': "script-src 'nonce-q7' 'strict-dynamic'" },
    });
    expect(count(html, '<script nonce="q7"')).to.equal(3);
    expect(headers['content-security-policy']).to.equal("script-src 'nonce-q7' 'strict-dynamic'");
  });

  it('cannot be left by a name: what is written in the mark is text', () => {
    const odd = snippet('odd', { name: '</script><img src=x onerror=alert(1)>', parts: chat.parts });
    const { html } = shown({}, { shown: set(counter, odd) });
    expect(html).not.to.include('<img src=x');
    expect(html).to.include('\\u003c/script>');
  });
});
