import { expect } from 'chai';
import {
  FactsCache,
  containmentProblem,
  normalForm,
  pageSkeleton,
  placementOfStatement,
  readCode,
  runChecks,
  suggestParts,
  TooMuchError,
  uncontainedParts,
} from '@pragmatica/core';
import { HOSTILE_CODE, READING_LIMIT_MS } from '../support/hostile-code.js';
import { ownTimeMs } from '../support/own-time.js';
import { part, set, snippet } from '../support/sets.js';

describe('whatever is pasted', function () {
  this.timeout(READING_LIMIT_MS * 3);

  for (const [name, code] of Object.entries(HOSTILE_CODE))
    it(`is read, tried and compared in bounded time: ${name}`, () => {
      const begin = ownTimeMs();
      readCode(code);
      suggestParts(code, code);
      placementOfStatement(code);
      for (const placement of ['head-end', 'body-end'] as const) containmentProblem(code, placement);
      normalForm(code);
      try {
        pageSkeleton('/', code);
      } catch (error) {
        expect(error).to.be.instanceOf(TooMuchError);
      }
      expect(ownTimeMs() - begin).to.be.below(READING_LIMIT_MS);
    });

  it('is said to be unread where it is nested too deep, and may not be released as long as nobody knows more', () => {
    const deep = '<div>'.repeat(2_000) + '</div>'.repeat(2_000);
    expect(readCode(deep).problems).to.deep.include({
      kind: 'unread',
      message: 'This code could not be read: its brackets or tags are nested hundreds of levels deep.',
      line: 1,
      column: 1,
      range: { start: 0, end: 1 },
      confidence: 'certain',
    });
    const bad = set(snippet('deep', { parts: [part('body-end', 0, deep)] }));
    expect(uncontainedParts(bad).map(({ problem }) => problem)).to.deep.equal(['unproven']);
    expect(runChecks(bad).map(({ check }) => check)).to.include.members(['unread-code', 'contained']);
  });

  it('is no less read for being long', () => {
    const names = Array.from({ length: 2_000 }, (_, i) => `window.name${i} = ${i};`).join('\n');
    expect(readCode(`<script>${names}</script>`).defines).to.have.length(2_000);
    const nested = `<script>x = ${'['.repeat(100)}1${']'.repeat(100)}; window.after = 1</script>`;
    expect(readCode(nested).defines.map(({ name }) => name)).to.include('after');
    const markup = `${'<div>'.repeat(400)}<p id="inside"></p>${'</div>'.repeat(400)}`;
    expect(readCode(markup).makes.map(({ id }) => id)).to.deep.equal(['inside']);
  });

  it('does not keep a check from looking at the others', () => {
    const counter = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
    const bad = snippet('far', {
      parts: [part('body-end', 0, '<p>x</p>')],
      // Refused where it is entered; what an older version let in must not hide the rest.
      limits: { hours: { last: '9999-12-31', weekly: { monday: [{ from: '09:00', to: 'x' }] } } },
    } as never);
    const good = ['one', 'two'].map((key, rank) =>
      snippet(key, { parts: [part('head-end', rank, counter)] }),
    );
    const found = runChecks(set(bad, ...good), { now: Date.parse('2026-11-27') });
    expect(found.filter(({ check }) => check === 'same-code')).to.have.length(1);
  });

  it('is given up when somebody who watches says so, and nothing is tried with it', () => {
    const seen: string[] = [];
    const memory = new FactsCache(10, {
      begin: (code) => seen.push(code),
      end: () => undefined,
      givenUp: (code) => (code.includes('slow') ? { what: 'time', seconds: 2 } : undefined),
    });
    const found = runChecks(
      set(
        snippet('slow', { parts: [part('body-end', 0, '<b>slow')] }),
        snippet('quick', { parts: [part('body-end', 1, '<b>quick</b>')] }),
      ),
      { memory },
    );
    expect(seen).to.deep.equal(['<b>quick</b>', '<b>quick</b>']);
    const unread = found.find(({ check }) => check === 'unread-code');
    expect(unread?.subjects.map(({ snippet: key }) => key)).to.deep.equal(['slow']);
    expect(unread?.advice).to.include('it took longer than 2 seconds');
    expect(found.find(({ check }) => check === 'contained')?.advice).to.include('to tell whether it leaves');
  });
});
