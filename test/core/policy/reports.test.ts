import { expect } from 'chai';
import fc from 'fast-check';
import { blameFor, readPolicyReports, sourceToAllow, type Suspect } from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';

const OLD = {
  'csp-report': {
    'document-uri': 'https://www.Example.com/fares?visitor=4711#x',
    'violated-directive': "script-src 'self'",
    'effective-directive': 'script-src-elem',
    'blocked-uri': 'https://tallymast.example/count.js?id=TM-7731',
    'source-file': 'https://www.example.com/fares',
    disposition: 'report',
  },
};
const NEW = [
  { type: 'deprecation', body: {} },
  {
    type: 'csp-violation',
    url: 'https://www.example.com/fares',
    body: {
      documentURL: 'https://www.example.com/fares',
      effectiveDirective: 'script-src-elem',
      blockedURL: 'inline',
      sample: 'tally("visit", {\u0000 a: 1 }); and much more than forty characters',
      disposition: 'enforce',
    },
  },
];

describe('what browsers report of a content policy', () => {
  it('is read in both forms, without what could tell who the visitor was', () => {
    expect(readPolicyReports(JSON.stringify(OLD))).to.deep.equal([
      {
        host: 'www.example.com',
        directive: 'script-src-elem',
        blocked: 'https://tallymast.example',
        source: 'https://www.example.com',
        sample: '',
        path: '/fares',
        isEnforced: false,
      },
    ]);
    expect(readPolicyReports(JSON.stringify(NEW))).to.deep.equal([
      {
        host: 'www.example.com',
        directive: 'script-src-elem',
        blocked: 'inline',
        source: '',
        sample: 'tally("visit", {  a: 1 }); and much more',
        path: '/fares',
        isEnforced: true,
      },
    ]);
  });

  it('is nothing where it is nonsense', () => {
    for (const text of ['', '{', 'null', '[null,1,"x"]', '{"csp-report":7}', '[{"type":"csp-violation"}]'])
      expect(readPolicyReports(text), text).to.deep.equal([]);
    const page = { ...OLD['csp-report'], 'document-uri': 'javascript:alert(1)' };
    expect(readPolicyReports(JSON.stringify({ 'csp-report': page }))).to.deep.equal([]);
    fc.assert(
      fc.property(fc.json(), (text) => {
        for (const report of readPolicyReports(text)) expect(report.sample.length).to.be.at.most(40);
      }),
      propertyRuns(200),
    );
  });

  it('is bounded', () => {
    const many = Array.from({ length: 5_000 }, () => NEW[1]);
    expect(readPolicyReports(JSON.stringify(many)).length).to.be.below(100);
    const [long] = readPolicyReports(
      JSON.stringify({
        'csp-report': { ...OLD['csp-report'], 'blocked-uri': `https://${'a'.repeat(9_000)}.example/` },
      }),
    );
    expect(long!.blocked.length).to.be.at.most(200);
  });

  const SUSPECTS: readonly Suspect[] = [
    {
      snippet: 'counter',
      name: 'Visit counter',
      hosts: ['tallymast.example'],
      inline: ['\n  tally("visit");'],
    },
    { snippet: 'chat', name: 'Chat', hosts: ['parlanook.example'], inline: [] },
  ];
  const nothing = { blocked: 'inline', source: '', sample: '' };

  it('is laid to the snippet that loads it, whose file does it, or whose code it is', () => {
    const by = (report: Partial<typeof nothing>) => blameFor({ ...nothing, ...report }, SUSPECTS);
    expect(by({ blocked: 'https://parlanook.example' })).to.include({ snippet: 'chat', by: 'loads' });
    expect(by({ blocked: 'https://in.else.example', source: 'https://tallymast.example' })).to.include({
      snippet: 'counter',
      by: 'file',
    });
    expect(by({ sample: 'tally("visit");' })).to.include({ snippet: 'counter', by: 'code' });
    expect(by({ sample: 'theme()' })).to.equal(undefined);
    expect(by({})).to.equal(undefined);
  });

  it('comes with what would let it in, where something sensible does', () => {
    expect(sourceToAllow({ directive: 'script-src-elem', blocked: 'https://a.example:8443' })).to.deep.equal({
      directive: 'script-src',
      source: 'a.example:8443',
    });
    expect(sourceToAllow({ directive: 'script-src', blocked: 'eval' })!.source).to.equal("'unsafe-eval'");
    expect(sourceToAllow({ directive: 'img-src', blocked: 'data' })!.source).to.equal('data:');
    expect(sourceToAllow({ directive: 'script-src-elem', blocked: 'inline' })).to.equal(undefined);
  });
});
