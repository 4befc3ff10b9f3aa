import { expect } from 'chai';
import fc from 'fast-check';
import { PageMatcher, ReleasePlanner, pagePatternProblem, planPage } from '@pragmatica/core';
import { URLPattern } from 'urlpattern-polyfill';
import { part, set, snippet } from '../support/sets.js';

describe('the page plan', () => {
  it('holds the parts in page order: placements from top to foot, ranks within', () => {
    const plan = planPage(
      set(
        snippet('a', { parts: [part('body-end', 1), part('head-start', 5)] }),
        snippet('b', { parts: [part('body-end', 0)] }),
        snippet('c', {
          parts: [
            part({ anchor: 'x', side: 'inside' }),
            part('head-start', 2),
            part('body-start'),
            part('head-end'),
          ],
        }),
      ),
      '/',
    );
    expect(plan.parts.map((entry) => entry.key)).to.deep.equal([
      'c/2',
      'a/2',
      'c/4',
      'c/3',
      'c/1',
      'b/1',
      'a/1',
    ]);
  });

  it('says why each other snippet is left out', () => {
    const plan = planPage(
      set(
        snippet('off', { state: 'off' }),
        snippet('archived', { state: 'archived' }),
        snippet('elsewhere', { pages: { include: ['/fares', '/news/*'], exclude: [] } }),
        snippet('excluded', { pages: { include: [], exclude: ['/booking*'] } }),
        snippet('empty', { parts: [] }),
      ),
      '/booking',
    );
    expect(plan.parts).to.have.length(0);
    expect(plan.leftOut.map(({ reason, message }) => [reason, message])).to.deep.equal([
      ['off', 'It is switched off.'],
      ['archived', 'It is archived.'],
      ['not-included', 'It runs only on /fares and /news/*.'],
      ['excluded', 'This page is left out by the rule “not on /booking*”.'],
      ['no-code', 'It has no code yet.'],
    ]);
  });

  it('prepares for the gateway just the parts that it plans', () => {
    const snapshot = set(
      snippet('a'),
      snippet('b', { pages: { include: ['/x'], exclude: [] } }),
      snippet('c', { state: 'off' }),
    );
    const planner = new ReleasePlanner(snapshot);
    for (const path of ['/', '/x', '/x?y=1']) {
      expect(planner.prepare(path).keys).to.deep.equal(planner.plan(path).parts.map((entry) => entry.key));
    }
    expect(planner.prepare('/y'), 'the same set is prepared once').to.equal(planner.prepare('/z'));
  });
});

describe('page patterns', () => {
  it('take the same pages as the URLPattern standard, shortcuts included', () => {
    const segment = fc.constantFrom('a', 'b', '*', ':x', 'a.html', '(a|b)', '{a}?', '%20', 'é');
    const pattern = fc.array(segment, { maxLength: 3 }).map((segments) => `/${segments.join('/')}`);
    const path = fc
      .array(fc.constantFrom('a', 'b', 'a.html', '%20', '', 'é'), { maxLength: 3 })
      .map((segments) => `/${segments.join('/')}`);
    fc.assert(
      fc.property(pattern, path, (source, target) => {
        if (pagePatternProblem(source) !== undefined || target.startsWith('//')) return;
        const expected = new URLPattern({ pathname: source }).test({
          pathname: new URL(`http://x.test${target}`).pathname,
        });
        expect(new PageMatcher({ include: [source], exclude: [] }).match(target).matches).to.equal(expected);
      }),
      { numRuns: 1000 },
    );
  });

  it('take paths with an empty first segment literally', () => {
    expect(new PageMatcher({ include: ['/'], exclude: [] }).match('//a').matches).to.equal(false);
    expect(new PageMatcher({ include: ['/*'], exclude: [] }).match('//a').matches).to.equal(true);
  });

  it('are refused with the reason when they cannot work', () => {
    expect(pagePatternProblem('fares')).to.include('"/fares"');
    expect(pagePatternProblem('/fares?day=1')).to.include('path only');
    expect(pagePatternProblem('/(')).to.include('not a valid pattern');
    expect(pagePatternProblem('/news/:slug?')).to.equal(undefined);
  });
});
