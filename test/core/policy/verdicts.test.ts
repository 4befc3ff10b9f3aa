import { createHash } from 'node:crypto';
import { ContentPolicy, policyRequests, type PolicyRequest } from '@pragmatica/core';
import { expect } from 'chai';
import { ownTimeMs } from '../../support/own-time.js';

const PAGE = 'https://www.example.com/fares';
const says = (policy: string, request: PolicyRequest, what: string, page = PAGE): string =>
  new ContentPolicy(policy).verdict(request, what, page).kind;
const hashOf = (text: string): string => `'sha256-${createHash('sha256').update(text).digest('base64')}'`;

describe('a content policy (CSP Level 3)', () => {
  const CASES: readonly (readonly [policy: string, request: PolicyRequest, what: string, verdict: string])[] =
    [
      ['', 'script', 'https://a.example/x.js', 'allowed'],
      ["img-src 'none'", 'script', 'https://a.example/x.js', 'allowed'],
      ["default-src 'none'", 'script', 'https://a.example/x.js', 'blocked'],
      ["default-src 'none'; script-src *", 'script', 'https://a.example/x.js', 'allowed'],
      ["script-src 'none'; script-src-elem https:", 'script', 'https://a.example/x.js', 'allowed'],
      ["script-src https:; script-src 'none'", 'script', 'https://a.example/x.js', 'allowed'],
      ["script-src 'self'", 'script', '/own.js', 'allowed'],
      ["script-src 'self'", 'script', 'https://a.example/x.js', 'blocked'],
      ["script-src 'self'", 'script', 'http://www.example.com/x.js', 'blocked'],
      ['script-src a.example', 'script', 'https://a.example/x.js', 'allowed'],
      ['script-src a.example', 'script', 'http://a.example/x.js', 'blocked'],
      ['script-src http://a.example', 'script', 'https://a.example/x.js', 'allowed'],
      ['script-src *.a.example', 'script', 'https://cdn.a.example/x.js', 'allowed'],
      ['script-src *.a.example', 'script', 'https://a.example/x.js', 'blocked'],
      ['script-src A.Example', 'script', 'https://a.example/x.js', 'allowed'],
      ['script-src a.example:8443', 'script', 'https://a.example/x.js', 'blocked'],
      ['script-src a.example:*', 'script', 'https://a.example:8443/x.js', 'allowed'],
      ['script-src a.example/lib/', 'script', 'https://a.example/lib/x.js', 'allowed'],
      ['script-src a.example/lib/x.js', 'script', 'https://a.example/lib/x.js?v=1', 'allowed'],
      ['script-src a.example/lib', 'script', 'https://a.example/lib/x.js', 'blocked'],
      ['script-src *', 'script', 'data:text/javascript,1', 'blocked'],
      ['script-src data:', 'script', 'data:text/javascript,1', 'allowed'],
      ["script-src 'self'", 'inline-script', 'go()', 'blocked'],
      ["script-src 'unsafe-inline'", 'inline-script', 'go()', 'allowed'],
      ["script-src 'unsafe-inline' 'nonce-abc'", 'inline-script', 'go()', 'needs-nonce'],
      ["script-src 'nonce-abc'", 'script', 'https://a.example/x.js', 'needs-nonce'],
      ["script-src 'strict-dynamic' a.example 'nonce-x'", 'script', 'https://a.example/x.js', 'needs-nonce'],
      [`script-src ${hashOf('go()')}`, 'inline-script', 'go()', 'allowed'],
      [`script-src ${hashOf('go()')}`, 'inline-script', 'go( )', 'blocked'],
      [`script-src ${hashOf('go()')}`, 'handler', 'go()', 'blocked'],
      [`script-src 'unsafe-hashes' ${hashOf('go()')}`, 'handler', 'go()', 'allowed'],
      ["style-src 'self'", 'inline-style', 'b{}', 'blocked'],
      ['child-src a.example; frame-src b.example', 'frame', 'https://a.example/', 'blocked'],
      ['child-src a.example', 'frame', 'https://a.example/', 'allowed'],
      ["default-src 'self'", 'image', 'https://a.example/p.gif', 'blocked'],
    ];
  for (const [policy, request, what, verdict] of CASES)
    it(`"${policy}" to ${request} ${what}: ${verdict}`, () => {
      expect(says(policy, request, what)).to.equal(verdict);
    });

  it('names the directive that decides', () => {
    const policy = new ContentPolicy("default-src 'self'; script-src b.example");
    expect(policy.verdict('script', 'https://a.example/x', PAGE)).to.deep.equal({
      kind: 'blocked',
      directive: 'script-src',
    });
    expect(policy.verdict('image', 'https://a.example/x', PAGE)).to.have.property('directive', 'default-src');
  });

  it('lets in the same host by a secure scheme as its own', () => {
    const from = (page: string, what: string): string => says("script-src 'self'", 'script', what, page);
    expect(from('http://www.example.com/', 'https://www.example.com/x.js')).to.equal('allowed');
    expect(from('http://www.example.com/', 'http://www.example.com/x.js')).to.equal('allowed');
    expect(from('http://www.example.com/', 'https://www.example.com:8443/x.js')).to.equal('blocked');
    expect(from('https://www.example.com/', 'http://www.example.com/x.js')).to.equal('blocked');
  });

  it('ends on whatever a stranger writes', () => {
    const began = ownTimeMs();
    says(`script-src ${'*.'.repeat(200_000)}a`, 'script', 'https://a.example/x.js');
    says(';'.repeat(1_000_000), 'script', 'https://a.example/x.js');
    expect(ownTimeMs() - began).to.be.below(2_000);
  });
});

describe('what a code asks of a policy', () => {
  it('is each script, style, image and frame, and what handlers do, where it stands', () => {
    const code = `<script src="/a.js"></script><script>\n go()</script><img src="//b.example/p" onload="x()"><style>b{}</style><iframe src="/f"></iframe><script type="text/plain">no</script>`;
    expect(policyRequests(code).map(({ request, what }) => [request, what])).to.deep.equal([
      ['script', '/a.js'],
      ['inline-script', '\n go()'],
      ['image', '//b.example/p'],
      ['handler', 'x()'],
      ['inline-style', 'b{}'],
      ['frame', '/f'],
    ]);
  });
});
