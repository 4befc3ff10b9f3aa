import { expect } from 'chai';
import {
  FactsCache,
  exampleFile,
  hashSource,
  policyOverview,
  proposeOwnPolicy,
  readScriptFile,
  type PageType,
  type PolicyGrounds,
} from '@pragmatica/core';
import { part, set, snippet } from '../../support/sets.js';

const memory = new FactsCache();
type Seen = PolicyGrounds['sightings'][number];

let count = 0;
const sighting = (
  code: string,
  { pages = 9, ours = false, kind = 'script' }: { pages?: number; ours?: boolean; kind?: Seen['kind'] } = {},
): Seen => {
  const nowhere = { pages: 0, examples: [], compositions: [] };
  const key = String(++count);
  return {
    ...{ key, kind, code, name: '', provider: '', shape: 'other', accounts: [], loads: [] },
    seen: {
      key,
      ours: ours ? { ...nowhere, pages } : nowhere,
      others: ours ? nowhere : { ...nowhere, pages },
      ...{ twice: 0, without: new Map(), states: ['active'], places: [], forms: [], part: undefined },
    },
  };
};
const scripts = (...sightings: Seen[]) => proposeOwnPolicy(sightings, memory, true);

describe('the policy for pages without one', () => {
  it('lets in the hosts and the inline scripts of the pages, and not what is ours', () => {
    const { directives, isStrict, reasons } = scripts(
      sighting('<script src="/theme.js"></script>'),
      sighting('<script src="https://files.example/menu.js"></script>'),
      sighting('<script>menu()</script>'),
      sighting('<script src="https://tallymast.example/count.js"></script>', { ours: true }),
    );
    expect(isStrict).to.equal(false);
    expect(directives).to.deep.equal({
      'script-src': ["'self'", 'files.example', hashSource('menu()')],
      'object-src': ["'none'"],
      'base-uri': ["'self'"],
    });
    expect(reasons.join()).to.contain('2 script files');
  });

  it('is by nonce where the pages load nothing of their own, and whatever sends them can write one', () => {
    const inline = sighting('<script>menu()</script>');
    expect(scripts(inline)).to.deep.include({ isStrict: true });
    expect(scripts(inline).directives['script-src']).to.deep.equal([hashSource('menu()')]);
    expect(proposeOwnPolicy([inline], memory, false).isStrict).to.equal(false);
  });

  it('gives hashes up where inline scripts differ from page to page, and says so', () => {
    const { directives, reasons } = scripts(
      sighting('<script>var token = "8f14e45fceea167a5a36dedd4bea2543";</script>'),
    );
    expect(directives['script-src']).to.deep.equal(["'self'", "'unsafe-inline'"]);
    expect(reasons.join()).to.contain('differ from page to page');
    const many = Array.from({ length: 40 }, (_, i) => sighting(`<script>menu(${i})</script>`));
    expect(scripts(...many).directives['script-src']).to.include("'unsafe-inline'");
  });

  it('leaves objects alone where pages have some', () => {
    const plan = sighting('<object data="/plan.pdf"></object>', { kind: 'frame' });
    expect(scripts(plan).directives).not.to.have.property('object-src');
  });
});

describe('the policies of a site’s pages', () => {
  const SNAPSHOT = set(
    snippet('counter', {
      parts: [part('head-end', 0, '<script src="https://tallymast.example/count.js"></script>')],
    }),
    snippet('pixel', {
      pages: { include: ['/paid'], exclude: [] },
      parts: [part('body-end', 0, '<script>pixel("paid")</script>')],
    }),
    snippet('off', { state: 'off', parts: [part('body-end', 1, '<script>off()</script>')] }),
  );
  const pagesOf = (path: string, type: PageType, pages: number) => ({
    ...{ composition: 1, section: '/', type, pages },
    examples: [path],
  });
  const overview = (change: Partial<PolicyGrounds> = {}) =>
    policyOverview(
      {
        snapshot: SNAPSHOT,
        environment: 'live',
        groups: [
          pagesOf('/', 'front', 1),
          pagesOf('/fares', 'article', 8),
          pagesOf('/paid', 'confirmation', 1),
        ],
        sightings: [sighting('<script src="/theme.js"></script>')],
        policies: [],
        files: { base: 'https://www.example.com', files: [] },
        address: 'https://www.example.com',
        own: undefined,
        canMark: true,
        lineAddress: undefined,
        ...change,
      },
      memory,
    );

  it('are one for each kind of page, with what runs there', () => {
    const { kinds, needs } = overview();
    expect(
      kinds.map(({ type, pages, snippets }) => [type, pages, snippets.map(({ key }) => key).join()]),
    ).to.deep.equal([
      ['article', 8, 'counter'],
      ['front', 1, 'counter'],
      ['confirmation', 1, 'counter,pixel'],
    ]);
    expect(kinds[2]!.policy).to.contain(hashSource('pixel("paid")'));
    expect(kinds[0]!.policy).not.to.contain('sha256');
    expect(
      needs.map(({ source, snippets }) => [source, snippets.map(({ key }) => key).join()]),
    ).to.deep.equal([
      [hashSource('pixel("paid")'), 'pixel'],
      ['tallymast.example', 'counter'],
    ]);
  });

  it('tell what a page’s own policy stops, and what would let it in', () => {
    const { present, kinds } = overview({
      policies: [
        {
          policies: [{ value: "script-src 'self'", from: 'header', isReportOnly: false }],
          paths: ['/paid'],
        },
        {
          policies: [
            { value: "script-src 'nonce-1a2b' 'strict-dynamic'", from: 'header', isReportOnly: false },
          ],
          paths: ['/fares'],
        },
      ],
    });
    const [paid, fares] = present;
    expect(paid!.stopped.map(({ key }) => key)).to.deep.equal(['counter', 'pixel']);
    expect(paid!.extended).to.equal(`script-src 'self' tallymast.example ${hashSource('pixel("paid")')}`);
    expect(fares!.needNonce.map(({ key }) => key)).to.deep.equal(['counter']);
    expect(fares!.value).to.contain("'nonce-…'").and.not.contain('1a2b');
    expect(kinds.find(({ type }) => type === 'confirmation')).to.deep.include({ isPresent: true });
  });

  it('let in what the snippets’ files ask for, as far as a survey has read them', () => {
    const address = 'https://tallymast.example/count.js';
    const reading = readScriptFile('new Image().src = "https://in.tallymast.example/hit?" + Math.random();')!;
    const policies = [
      {
        policies: [{ value: "script-src *; img-src 'self'", from: 'header' as const, isReportOnly: false }],
        paths: ['/'],
      },
    ];
    const files = { base: 'https://www.example.com', files: [exampleFile(address, reading)] };
    expect(overview({ files, policies }).present[0]!.added).to.deep.include({
      directive: 'img-src',
      source: 'in.tallymast.example',
    });
    expect(overview({ policies }).present[0]!.added.map(({ directive }) => directive)).not.to.include(
      'img-src',
    );
  });

  it('let in what somebody has allowed, wherever they have a say', () => {
    const own = {
      ...{ isStrict: false, directives: { 'script-src': ["'self'"] } },
      allowed: [{ directive: 'img-src', source: 'pictures.example' }],
    };
    const policies = [
      {
        policies: [{ value: "default-src 'none'", from: 'header' as const, isReportOnly: false }],
        paths: ['/paid'],
      },
    ];
    const { kinds } = overview({ own, policies });
    expect(kinds.find(({ isPresent }) => isPresent)!.policy).to.contain('img-src pictures.example');
    expect(kinds.find(({ isPresent }) => !isPresent)!.policy).not.to.contain('img-src');
  });

  it('let in the one line, where pages get theirs by it', () => {
    const { kinds } = overview({ lineAddress: 'https://lines.example/one/s.js', canMark: false });
    for (const { policy } of kinds) expect(policy).to.contain('lines.example');
  });
});
