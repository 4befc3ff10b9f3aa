import { expect } from 'chai';
import fc from 'fast-check';
import {
  ContentPolicy,
  FactsCache,
  extendPolicy,
  hashSource,
  nonceIn,
  partNeeds,
  partsWithNonce,
  prepareParts,
  withSources,
  type PolicyNeed,
  type PolicyRequest,
} from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';

const PAGE = 'https://www.example.com';
const memory = new FactsCache();
const needs = (code: string): readonly PolicyNeed[] => partNeeds(code, code, memory);
const COUNTER = '<script async src="https://tallymast.example/count.js"></script>';
const INLINE = '<script>tally("visit");</script>';
const HASH = hashSource('tally("visit");');
const extended = (policy: string, code: string, hasNonce = false): string =>
  extendPolicy(policy, needs(code), PAGE, hasNonce).value;

describe('what a part needs of a content policy', () => {
  const sourcesOf = (code: string): string[] =>
    needs(code).map(({ request, source }) => `${request} ${source}`);

  it('is each host, and each inline code by its hash', () => {
    expect(sourcesOf(COUNTER + INLINE)).to.have.members([
      'script tallymast.example',
      `inline-script ${HASH}`,
    ]);
    expect(sourcesOf('<script src="/own.js"></script>')).to.deep.equal(["script 'self'"]);
    expect(sourcesOf('<iframe src="https://slotwell.example:8443/book"></iframe>')).to.deep.equal([
      'frame slotwell.example:8443',
    ]);
    expect(sourcesOf('<img src="data:image/gif;base64,AAAA" onload="boats()">')).to.have.members([
      'image data:',
      `handler ${hashSource('boats()')}`,
    ]);
  });

  it('is what a script loads, too', () => {
    const loader = `<script>var s = document.createElement('script'); s.src = 'https://parlanook.example/chat.js'; document.head.append(s);</script>`;
    expect(sourcesOf(loader)).to.include('script parlanook.example');
    expect(needs(loader).find(({ request }) => request === 'script')!.isTag).to.equal(false);
  });

  it('can be written into a header, whatever the code says', () => {
    for (const host of ['a;b.example', 'a,b.example', "x' y", 'ü.example'])
      for (const { source } of needs(`<script src="https://${host}/x.js"></script>`))
        expect(source).to.match(/^[!-+\--:<-~]+$/);
  });
});

describe('a policy that is extended', () => {
  it('gets what is missing where it decides, and nothing else', () => {
    const CASES: readonly (readonly [policy: string, code: string, extended: string])[] = [
      ["script-src 'self'", COUNTER, "script-src 'self' tallymast.example"],
      ["script-src 'none'", COUNTER, 'script-src tallymast.example'],
      ["default-src 'self'", COUNTER, "default-src 'self'; script-src 'self' tallymast.example"],
      ["img-src 'none'", COUNTER, "img-src 'none'"],
      ['script-src https:', COUNTER, 'script-src https:'],
      ["script-src 'unsafe-inline'", INLINE, "script-src 'unsafe-inline'"],
      ["script-src 'self'", INLINE, `script-src 'self' ${HASH}`],
      [
        "script-src-elem 'self'; script-src *",
        COUNTER,
        "script-src-elem 'self' tallymast.example; script-src *",
      ],
      [
        "script-src 'self'",
        '<b onclick="go()">x</b>',
        `script-src 'self' 'unsafe-hashes' ${hashSource('go()')}`,
      ],
    ];
    for (const [policy, code, result] of CASES) expect(extended(policy, code), policy).to.equal(result);
  });

  it('leaves what carries its nonce to the nonce', () => {
    const policy = "script-src 'nonce-r4nd0m' 'strict-dynamic'";
    expect(nonceIn(policy)).to.equal('r4nd0m');
    expect(extended(policy, COUNTER + INLINE, true)).to.equal(policy);
    const { unmet } = extendPolicy(policy, needs(COUNTER), PAGE);
    expect(unmet.map(({ source }) => source)).to.deep.equal(['tallymast.example']);
  });

  const host = fc.constantFrom('a.example', 'b.example', '*.c.example', 'd.example:8443');
  const source = fc.oneof(
    host,
    fc.constantFrom("'self'", "'none'", 'https:', "'unsafe-inline'", "'strict-dynamic'", "'nonce-abc'", HASH),
  );
  const policies = fc
    .uniqueArray(
      fc.tuple(
        fc.constantFrom('default-src', 'script-src', 'script-src-elem', 'img-src', 'frame-src', 'style-src'),
        fc.array(source, { maxLength: 4 }),
      ),
      { selector: ([name]) => name, maxLength: 5 },
    )
    .map((directives) => directives.map(([name, sources]) => [name, ...sources].join(' ')).join('; '));
  const codes = fc.array(
    fc.constantFrom(
      COUNTER,
      INLINE,
      '<script src="https://a.example/x.js"></script>',
      '<img src="https://x.c.example/p.gif">',
      '<iframe src="https://d.example:8443/f"></iframe>',
      '<style>b { color: teal }</style>',
    ),
    { maxLength: 4 },
  );
  const asked: readonly (readonly [PolicyRequest, string])[] = [
    ['script', 'https://a.example/x.js'],
    ['script', 'https://tallymast.example/count.js'],
    ['script', 'https://evil.example/x.js'],
    ['image', 'https://x.c.example/p.gif'],
    ['frame', 'https://d.example:8443/f'],
    ['inline-script', 'tally("visit");'],
    ['inline-script', 'evil()'],
    ['inline-style', 'b { color: teal }'],
  ];
  const letsIn = (policy: string, [request, what]: readonly [PolicyRequest, string]): boolean =>
    new ContentPolicy(policy).verdict(request, what, `${PAGE}/`).kind === 'allowed';

  it('lets in what it did, and what is needed, and nothing that nobody asked for', () => {
    fc.assert(
      fc.property(policies, codes, (policy, some) => {
        const all = some.flatMap(needs);
        const { value, unmet } = extendPolicy(policy, all, PAGE);
        const isWanted = ([request, what]: readonly [PolicyRequest, string]): boolean =>
          all.some((need) => need.request === request && (need.address ?? '') === what) ||
          all.some((need) => need.request === request && need.source === hashSource(what));
        for (const one of asked) {
          const before = letsIn(policy, one);
          const isUnmet = unmet.some(({ address }) => address === one[1]);
          if (before) expect(letsIn(value, one), `${policy} → ${value}: ${one[1]}`).to.equal(true);
          else if (isWanted(one) && !isUnmet)
            expect(letsIn(value, one), `${policy} → ${value}: ${one[1]}`).to.equal(true);
          else if (!isWanted(one))
            expect(letsIn(value, one), `${policy} → ${value}: ${one[1]}`).to.equal(false);
        }
        expect(extendPolicy(value, all, PAGE).value, 'once is enough').to.equal(value);
      }),
      propertyRuns(400),
    );
  });
});

describe('sources that somebody allows', () => {
  it('are let in where the policy has a say, and make it have no more', () => {
    const CASES: readonly (readonly [policy: string, directive: string, source: string, result: string])[] = [
      ["img-src 'self'", 'img-src', 'a.example', "img-src 'self' a.example"],
      ["img-src 'none'", 'img-src', 'a.example', 'img-src a.example'],
      ["script-src 'self'", 'img-src', 'a.example', "script-src 'self'"],
      ["default-src 'self'", 'img-src', 'a.example', "default-src 'self'; img-src 'self' a.example"],
      [
        "script-src 'self'",
        'script-src-attr',
        "'unsafe-inline'",
        "script-src 'self'; script-src-attr 'unsafe-inline'",
      ],
      [
        "script-src 'self'; script-src-elem b.example",
        'script-src',
        'a.example',
        "script-src 'self' a.example; script-src-elem b.example a.example",
      ],
      ['img-src a.example', 'img-src', 'a.example', 'img-src a.example'],
    ];
    for (const [policy, directive, source, result] of CASES)
      expect(withSources(policy, [{ directive, source }]), policy).to.equal(result);
  });
});

describe('parts with a nonce', () => {
  const withNonce = (code: string): string => {
    const parts = prepareParts([{ key: 'a/1', placement: 'head-end', code }]);
    return partsWithNonce(parts, 'r4nd0m').source[0]!.code;
  };

  it('carry it in each tag that can, and are otherwise as they were', () => {
    expect(withNonce(`<!-- <script> -->${COUNTER}<style>b{}</style><p>"<script>"</p>`)).to.equal(
      '<!-- <script> --><script nonce="r4nd0m" async src="https://tallymast.example/count.js"></script><style nonce="r4nd0m">b{}</style><p>"<script nonce="r4nd0m">"</p>',
    );
    expect(withNonce('<script>x("<script>")</script>')).to.equal(
      '<script nonce="r4nd0m">x("<script>")</script>',
    );
    expect(withNonce('<script nonce="own">x()</script>')).to.equal('<script nonce="own">x()</script>');
    expect(withNonce('<template><script>x()</script></template><SCRIPT>y()</SCRIPT>')).to.equal(
      '<template><script nonce="r4nd0m">x()</script></template><SCRIPT nonce="r4nd0m">y()</SCRIPT>',
    );
  });
});
