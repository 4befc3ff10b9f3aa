import { expect } from 'chai';
import {
  CHECKS,
  EXAMPLE_NOW,
  FactsCache,
  applyFix,
  exampleKnowledge,
  exampleSet,
  findCheck,
  fixAll,
  normalForm,
  readCode,
  runChecks,
  type ExampleSnippet,
  type Finding,
} from '@pragmatica/core';
import { SEED_REACH, seedDraftSnippet, seedSnippets } from '@pragmatica/demo';
import { CORPUS } from '../corpus/corpus.js';

const ids = (findings: readonly Finding[]): string[] => findings.map(({ check }) => check);
const ofSnippets = (...snippets: readonly ExampleSnippet[]): Finding[] => runChecks(exampleSet(snippets));
const inHead = (name: string, code: string, more: Partial<ExampleSnippet> = {}): ExampleSnippet => ({
  name,
  parts: [{ placement: 'head-end', code }],
  ...more,
});

describe('checks', () => {
  for (const check of CHECKS) {
    describe(check.id, () => {
      it('finds its wrong example', () => {
        const found = runChecks(
          exampleSet(check.wrong, check.consent),
          exampleKnowledge(check, exampleSet(check.wrong, check.consent)),
        ).filter((finding) => finding.check === check.id);
        expect(found).not.to.deep.equal([]);
        for (const { title, why, advice, subjects, evidence } of found) {
          expect(title).to.match(/^[A-Z“].*[^.]$/);
          expect(why).to.match(/^[A-Z].*\.$/);
          expect(advice).to.match(/^[A-Z“<].*[.;)]$/);
          expect(subjects).not.to.deep.equal([]);
          for (const { text, line, column } of evidence) {
            expect(text).not.to.equal('');
            expect(line).to.be.at.least(1);
            expect(column).to.be.at.least(1);
          }
        }
      });

      it('finds nothing in its right example, nor does any other check', () => {
        const found = runChecks(
          exampleSet(check.right, check.consent),
          exampleKnowledge(check, exampleSet(check.right, check.consent)),
        ).filter(({ severity }) => severity !== 'advice');
        expect(found.map(({ title }) => title)).to.deep.equal([]);
      });

      it(check.isFixable ? 'is fixed by its fix, and by nothing worse' : 'offers no fix', () => {
        const set = exampleSet(check.wrong, check.consent);
        const knowledge = exampleKnowledge(check, set);
        const before = runChecks(set, knowledge);
        const fixes = before.flatMap(({ check: by, id, fix }) =>
          by === check.id && fix ? [{ id, fix }] : [],
        );
        expect(fixes.length > 0).to.equal(check.isFixable);
        for (const { id, fix } of fixes) {
          const after = runChecks(applyFix(set, fix), knowledge);
          expect(after.map((finding) => finding.id)).not.to.include(id);
          const known = new Set(before.map((finding) => finding.check));
          expect(
            after.filter(({ severity, check: by }) => severity !== 'advice' && !known.has(by)),
          ).to.deep.equal([]);
        }
      });
    });
  }

  it('say what their examples take for granted where a recipe, a file or the delivery makes the difference', () => {
    for (const { id, given, recipes, files, delivery } of CHECKS)
      expect(given === undefined, id).to.equal([recipes, files, delivery].every((one) => one === undefined));
  });

  it('have ids of their own', () => {
    expect(new Set(CHECKS.map(({ id }) => id)).size).to.equal(CHECKS.length);
    expect(findCheck('same-code')?.title).to.equal('The same code twice on one page');
    expect(findCheck('no-such-check')).to.equal(undefined);
  });

  it('find nothing wrong in the demo’s set', () => {
    const snippets = [...seedSnippets(4790), seedDraftSnippet(4790)].map(
      ({ name, parts, state = 'on', pages, limits }): ExampleSnippet => ({
        name,
        parts,
        state: state === 'on' ? 'on' : 'off',
        include: pages?.include ?? [],
        exclude: pages?.exclude ?? [],
        ...(limits ? { limits } : {}),
      }),
    );
    const made = exampleSet(snippets);
    const found = runChecks({ ...made, site: { ...made.site, ...SEED_REACH } }, { now: EXAMPLE_NOW });
    expect(found.filter(({ severity }) => severity !== 'advice')).to.deep.equal([]);
  });

  it('find nothing wrong in any good snippet by itself', () => {
    const bad = new Set([
      'script without tags',
      'tags copied as text',
      'typographic quotes',
      'a brace too many',
      'the example’s account',
      'crosses for an account',
      'test mode',
      'a secret',
      'broken data',
      'code beside an address',
      'a style sheet without tags',
      'an element that comes later',
      'its own element, too late',
      'http on https',
      'an unclosed tag',
      'an unclosed script',
      'container for browsers without scripts',
      'only words',
      'nothing',
    ]);
    for (const { name, code, placement } of CORPUS) {
      if (bad.has(name)) continue;
      const found = ofSnippets({ name: 'One', parts: [{ placement, code }] }).filter(
        ({ severity }) => severity !== 'advice',
      );
      expect(
        found.map(({ title }) => title),
        name,
      ).to.deep.equal([]);
    }
  });

  describe('what is safe to fix', () => {
    it('leaves a set without those findings when all is fixed at once', () => {
      const set = exampleSet(
        CHECKS.flatMap(({ id, wrong }) => wrong.map((snippet, i) => ({ ...snippet, name: `${id} ${i}` }))),
      );
      const { snapshot: fixed, fixed: done, left } = fixAll(set);
      expect(done.length).to.be.greaterThan(4);
      expect(left).to.deep.equal(runChecks(fixed));
      expect(runChecks(fixed).filter(({ fix }) => fix)).to.deep.equal([]);
      expect(runChecks(fixed).length).to.be.lessThan(runChecks(set).length);
    });
  });

  describe('ids of findings', () => {
    const wrong = inHead(
      'Counter',
      '<script async src="https://tallymast.example/count.js?id=YOUR_ID"></script>',
    );

    it('stay while unrelated things change', () => {
      const before = ofSnippets(wrong).map(({ id }) => id);
      const after = ofSnippets(inHead('Another', '<meta name="a" content="b">'), wrong).map(({ id }) => id);
      expect(before).to.have.length(1);
      expect(after).to.deep.equal(before);
    });

    it('are others when what was found is another thing', () => {
      const other = inHead(
        'Counter',
        '<script async src="https://tallymast.example/count.js?id=YOUR_SITE_ID"></script>',
      );
      expect(ofSnippets(other)[0]!.id).not.to.equal(ofSnippets(wrong)[0]!.id);
    });
  });

  describe('duplicates', () => {
    const count = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';

    it('are the same code however it is written', () => {
      const forms = [
        [
          '<script>window.a = true; b("x");</script>',
          "<script type='text/javascript'>\n  // hello\n  window['a']=!0;b('x')\n</script>",
        ],
        ['<img src="https://x.example/a.gif" alt="">', "<IMG alt='' src=' https://x.example/a.gif'/>"],
        ['<p class="a  b">x</p><!-- x -->', "<p class='a b'>x</p>"],
        ['<script>a()</script>\n\n  <script>b()</script>', '<script>a()</script><script>b()</script>'],
        [
          '<script>a()</script>\n<noscript><img src="a.gif"></noscript>',
          '<script>a()</script><noscript><img src="a.gif"></noscript>',
        ],
        [
          '<script type="application/ld+json">{"a": 1}</script>',
          '<script type="application/ld+json">{"a":1}</script>',
        ],
        ['<script>if (a) { b() }</script>', '<script>if(a)b()</script>'],
        ['<style>a , b { color : red ; }\n</style>', '<style>a,b{color:red}</style>'],
        ['<style>a { color: red; }</style>', '<style>/* x */a{color:red}</style>'],
        ['<a title="a &amp; b">x</a>', "<a title='a & b'>x</a>"],
      ] as const;
      for (const [one, other] of forms) expect(normalForm(one)).to.equal(normalForm(other));
      expect(normalForm('<script>a(1)</script>')).not.to.equal(normalForm('<script>a(2)</script>'));
      expect(normalForm(count)).not.to.equal(normalForm(count.replace('7731', '7732')));
    });

    it('are not the same where they do another thing, however alike they look', () => {
      const others = [
        ['<style>.menu :hover{color:red}</style>', '<style>.menu:hover{color:red}</style>'],
        ['<style>a::before{content:" "}</style>', '<style>a::before{content:""}</style>'],
        ['<style>a::before{content:"a  b"}</style>', '<style>a::before{content:"a b"}</style>'],
        ['<style>a{width:calc(1px + 2px)}</style>', '<style>a{width:calc(1px+2px)}</style>'],
        ['<style>a{--x: 1}</style>', '<style>a{--x:  1}</style>'],
        ['<pre>a  b</pre>', '<pre>a b</pre>'],
        ['<b>a</b> <i>b</i>', '<b>a</b><i>b</i>'],
        ['<p>a  b</p>', '<p>a b</p>'],
        ['<a title="a  b">x</a>', '<a title="a b">x</a>'],
        ['<script src="a.js?v=1"></script>', '<script src="a.js?v=2"></script>'],
        ['<script>{let a=1}</script>', '<script>let a=1</script>'],
        ['<script>a`\\x41`</script>', '<script>a`A`</script>'],
        ['<script>"use strict";a()</script>', '<script>("use strict");a()</script>'],
        ['<script>a.b  </script><!-- -->x', '<script>a.b</script><!-- --> x'],
        ['<template><p>a</p></template>', '<template><p>b</p></template>'],
        ['<script>/a  b/.test(c)</script>', '<script>/a b/.test(c)</script>'],
        ['<script type="text/x">a  b</script>', '<script type="text/x">a b</script>'],
        ['<script type="text/template">a+b</script>', '<script type="text/template">a + b</script>'],
        ['<script type="text/plain">{"a":1}</script>', '<script type="text/plain">{ "a": 1 }</script>'],
        ['<p> </p>', '<p></p>'],
        ['<textarea> </textarea>', '<textarea></textarea>'],
        ['<div>\n<script>a()</script></div>', '<div><script>a()</script></div>'],
        ['<!--#include virtual="/a"--><i>x</i>', '<i>x</i>'],
        ['<!--[if IE]>a<![endif]--><i>x</i>', '<!--[if IE]>b<![endif]--><i>x</i>'],
        [`${'<div>'.repeat(600)}a${'</div>'.repeat(600)}`, `${'<div>'.repeat(600)}b${'</div>'.repeat(600)}`],
        ['<script type="module">a()</script>', '<script>a()</script>'],
      ] as const;
      for (const [one, other] of others) expect(normalForm(one), one).not.to.equal(normalForm(other));
    });

    it('are none on pages that do not meet', () => {
      const found = ofSnippets(
        inHead('A', count, { include: ['/fares/*'] }),
        inHead('B', count, { include: ['/news/*'] }),
      );
      expect(ids(found)).to.deep.equal([]);
    });

    it('are not fixed by taking away what runs alone elsewhere', () => {
      const [found] = ofSnippets(inHead('A', count, { include: ['/fares'] }), inHead('B', count));
      expect(found).to.include({ check: 'same-code' });
      expect(found!.fix).to.equal(undefined);
    });

    it('are none for two accounts in one loader: that is advice', () => {
      const found = ofSnippets(inHead('A', count), inHead('B', count.replace('TM-7731', 'TM-1002')));
      expect(found.map(({ check, severity }) => [check, severity])).to.deep.equal([
        ['two-accounts', 'advice'],
      ]);
    });

    it('are none for a piece for browsers without scripts', () => {
      const found = ofSnippets(inHead('A', count), {
        name: 'B',
        parts: [
          {
            placement: 'body-start',
            code: '<noscript><img src="https://tallymast.example/dot.gif?id=TM-7731" alt=""></noscript>',
          },
        ],
      });
      expect(ids(found)).to.deep.equal([]);
    });
  });

  describe('order', () => {
    const queue =
      '<script>window.tally = window.tally || function () { (tally.q = tally.q || []).push(arguments); };</script>';
    const event = "<script>tally('event', 'seen');</script>";

    it('is wrong when the maker comes later, and right when it comes first', () => {
      expect(ids(ofSnippets(inHead('Event', event), inHead('Counter', queue)))).to.deep.equal([
        'used-before-defined',
      ]);
      expect(ids(ofSnippets(inHead('Counter', queue), inHead('Event', event)))).to.deep.equal([]);
    });

    it('is a race when the maker waits for its own script', () => {
      const late =
        "<script>addEventListener('load', function () { window.tally = function () {}; });</script>";
      const found = ofSnippets(inHead('Counter', late), inHead('Event', event));
      expect(found.map(({ check, severity }) => [check, severity])).to.deep.equal([
        ['used-before-defined', 'warning'],
      ]);
    });

    it('does not matter to handlers and to code that looks first', () => {
      const click = "<script>addEventListener('click', function () { tally('event', 'click'); });</script>";
      const looks = "<script>if (window.tally) tally('event', 'seen');</script>";
      expect(
        ids(ofSnippets(inHead('Click', click), inHead('Looks', looks), inHead('Counter', queue))),
      ).to.deep.equal([]);
    });

    it('is broken where the maker does not run, and says on which page', () => {
      const [found] = ofSnippets(inHead('Counter', queue, { exclude: ['/fares'] }), inHead('Event', event));
      expect(found).to.include({ check: 'needs-what-is-off' });
      expect(found!.advice).to.include('/fares');
    });

    it('says nothing of names that nobody in the set makes: a theme may', () => {
      expect(ids(ofSnippets(inHead('Event', event)))).to.deep.equal([]);
    });
  });

  it('read only code that they have not read before', () => {
    const memory = new FactsCache();
    const code = '<script>one()</script>';
    expect(memory.read(code)).to.equal(memory.read(code));
    expect(memory.read(code).facts).to.deep.equal(readCode(code));
  });

  it('go through a thousand snippets', () => {
    const snippets = Array.from({ length: 1000 }, (_, i) =>
      inHead(
        `S ${i}`,
        `<script>window.value${i} = ${i};</script><script async src="https://p${i % 50}.example/a.js?id=K-${i}"></script>`,
      ),
    );
    expect(ofSnippets(...snippets).filter(({ severity }) => severity === 'error')).to.deep.equal([]);
  });
});
