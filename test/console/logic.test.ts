import type { FindingResource, PagePlanResource } from '@pragmatica/contract';
import {
  CHECKS,
  NAMED_PLACEMENTS,
  isAnchor,
  placementTitle,
  type Placement,
  type Snapshot,
} from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';
import { FINDING_LINKS } from '../../packages/console/src/views/findings/finding-links.js';
import {
  targetOf,
  typedKey,
  typedProblem,
  type RecipeFieldResource,
} from '../../packages/console/src/views/recipes/given-values.js';
import { firstPage } from '../../packages/console/src/views/snippet/first-page.js';
import { countBySnippet } from '../../packages/console/src/views/snippets/count-by-snippet.js';
import { cellState, pageCellState } from '../../packages/console/src/views/survey/coverage-state.js';
import {
  FIRST_QUESTION,
  readQuestion,
  toQuery,
  writeQuestion,
  type Question,
} from '../../packages/console/src/views/strip/question.js';
import {
  anchorsOf,
  partsAt,
  stripContext,
  type PlannedPart,
} from '../../packages/console/src/views/strip/strip-context.js';
import { suggestedPages } from '../../packages/console/src/ui/suggested-pages.js';
import { propertyRuns } from '../support/property-runs.js';

const planned = (key: string, placement: Placement): PlannedPart => ({ key, placement }) as PlannedPart;

describe('the console without a browser', () => {
  describe('coverage', () => {
    it('tells all, some, none of what should be there, and what nothing is asked of', () => {
      expect(cellState({ expected: 4, present: 4 })).to.equal('all');
      expect(cellState({ expected: 4, present: 3 })).to.equal('some');
      expect(cellState({ expected: 4, present: 0 })).to.equal('missing');
      expect(cellState(undefined)).to.equal('none');
      expect(pageCellState('chat', ['chat/1', 'chat-two/1'], ['chat-two/1'])).to.equal('all');
      expect(pageCellState('chat', ['chat/1', 'chat/2'], ['chat/2'])).to.equal('missing');
      expect(pageCellState('chat', ['chat-two/1'], [])).to.equal('none');
    });
  });

  it('suggests pages that begin with what is typed, then those with all its words, and not all of many', () => {
    const paths = ['/', '/news', '/news/a', '/old/news', '/fares'];
    expect(suggestedPages(paths, '/news')).to.deep.equal(['/news', '/news/a', '/old/news']);
    expect(suggestedPages(paths, 'NEWS old')).to.deep.equal(['/old/news']);
    expect(
      suggestedPages(
        Array.from({ length: 10_000 }, (_, i) => `/p/${i}`),
        '/p',
      ),
    ).to.have.length(50);
  });

  it('counts each finding once for each of its snippets', () => {
    const subject = (snippet: string) => ({ snippet, name: snippet });
    const counts = countBySnippet([
      { severity: 'error', subjects: [subject('a'), subject('a'), subject('b')] },
      { severity: 'advice', subjects: [subject('a')] },
    ]);
    expect(counts.get('a')).to.deep.equal({ error: 1, warning: 0, advice: 1 });
    expect(counts.get('b')).to.deep.equal({ error: 1, warning: 0, advice: 0 });
    expect(counts.has('c')).to.equal(false);
  });

  describe('the page strip', () => {
    const parts = [
      planned('a/1', 'head-end'),
      planned('b/1', { anchor: 'booking', side: 'inside' }),
      planned('c/1', { anchor: 'booking', side: 'before' }),
      planned('d/1', { anchor: 'booking', side: 'inside' }),
      planned('e/1', 'body-end'),
    ];

    it('draws each element once, in page order, with the parts that stand there', () => {
      const anchors = anchorsOf(parts);
      expect(anchors.map(placementTitle)).to.deep.equal([
        'inside the element #booking',
        'before the element #booking',
      ]);
      expect(partsAt(parts, anchors[0]!).map(({ key }) => key)).to.deep.equal(['b/1', 'd/1']);
      expect(partsAt(parts, 'body-start')).to.deep.equal([]);
      expect(NAMED_PLACEMENTS.map(placementTitle)).to.deep.equal([
        'Start of the head',
        'End of the head',
        'Start of the body',
        'End of the body',
      ]);
    });

    it('puts each part into exactly one slot', () => {
      const placement = fc.oneof(
        fc.constantFrom<Placement>(...NAMED_PLACEMENTS),
        fc.record({
          anchor: fc.constantFrom('a', 'b'),
          side: fc.constantFrom<'inside' | 'before'>('inside', 'before'),
        }),
      );
      fc.assert(
        fc.property(fc.array(placement), (placements) => {
          const all = placements.map((one, index) => planned(`s/${index}`, one));
          const slots = [...NAMED_PLACEMENTS, ...anchorsOf(all)];
          expect(slots.filter(isAnchor).length).to.be.at.most(4);
          const shown = slots.flatMap((slot) => partsAt(all, slot));
          expect(shown).to.have.members(all).and.have.length(all.length);
        }),
        propertyRuns(100),
      );
    });

    it('numbers the parts, marks what is changed, and shows errors and warnings where they are, but no advice', () => {
      const finding = (id: string, severity: string, ...keys: (string | undefined)[]) =>
        ({ id, severity, subjects: keys.map((part) => ({ part })) }) as unknown as FindingResource;
      const context = stripContext({
        site: 'mill',
        plan: { parts } as unknown as PagePlanResource,
        draft: { data: { snapshot: {} as Snapshot }, etag: '"1"' },
        changes: [{ kind: 'code', snippet: 'a', message: '', visible: true }],
        findings: [
          finding('1', 'error', 'a/1', 'e/1'),
          finding('2', 'warning', 'a/1', undefined),
          finding('3', 'advice', 'b/1'),
        ],
        isEditable: true,
      });
      expect(context.position.get('e/1')).to.equal(5);
      expect([...context.changed]).to.deep.equal(['a']);
      expect(context.findings.get('a/1')!.map(({ id }) => id)).to.deep.equal(['1', '2']);
      expect(context.findings.get('e/1')).to.have.length(1);
      expect(context.findings.has('b/1')).to.equal(false);
    });
  });

  describe('the question about a page load', () => {
    const any = fc.record<Question>({
      path: fc.constantFrom('/', '/book', '/a b?x=1'),
      of: fc.constantFrom('draft', 'live'),
      environment: fc.constantFrom('live', 'staging'),
      device: fc.constantFrom('desktop', 'phone', 'tablet'),
      at: fc.constantFrom('', '2027-03-31T10:00'),
      consent: fc.constantFrom('', 'visits,adverts'),
      visitor: fc.constantFrom('', 'first', 'returning'),
    });

    it('comes out of the address as it went in', () => {
      fc.assert(
        fc.property(any, (question) => {
          const address = new URLSearchParams(writeQuestion(question)).toString();
          expect(readQuestion(new URLSearchParams(address))).to.deep.equal(question);
        }),
        propertyRuns(200),
      );
    });

    it('is the first question where the address says nothing that is known', () => {
      const odd = new URLSearchParams('path=book&of=moon&environment=x&device=watch&visitor=nobody&consent=');
      expect(readQuestion(odd)).to.deep.equal(FIRST_QUESTION);
      expect(toQuery(FIRST_QUESTION)).to.deep.equal({
        path: '/',
        environment: 'live',
        device: 'desktop',
        of: 'draft',
      });
      expect(toQuery({ ...FIRST_QUESTION, of: 'live' })).not.to.have.property('of');
    });
  });

  describe('values for a recipe', () => {
    const field = (name: string, more: object = {}) =>
      ({ name, type: 'number', label: name, ...more }) as RecipeFieldResource;

    it('are what was typed, or the recipe’s default; nothing typed is not wrong yet', () => {
      const fields = [field('room'), field('size', { default: '3' })];
      const typed = new Map([
        [typedKey('mill', 'room', 'value'), '7'],
        [typedKey('mill', 'room', 'staging'), 'seven'],
        [typedKey('other', 'size', 'value'), '9'],
      ]);
      expect(targetOf(typed, 'mill', fields)).to.deep.equal({
        site: 'mill',
        values: [
          { name: 'room', value: '7' },
          { name: 'room', environment: 'staging', value: 'seven' },
          { name: 'size', value: '3' },
        ],
      });
      expect(typedProblem(typed, 'mill', fields[0]!, 'value')).to.equal(undefined);
      expect(typedProblem(typed, 'mill', fields[0]!, 'staging')).to.be.a('string');
      expect(typedProblem(new Map(), 'mill', fields[0]!, 'value')).to.equal(undefined);
    });
  });

  it('shows a snippet on the first page that is named without a pattern', () => {
    const page = (...include: string[]): string => firstPage({ include, exclude: [] });
    expect(page()).to.equal('/');
    expect(page('/news/*', '/fares', '/book')).to.equal('/fares');
    expect(page('/news/*', '//odd', '@group')).to.equal('/');
  });

  it('leads from findings only of checks that there are', () => {
    const ids = CHECKS.map(({ id }) => id);
    for (const id of Object.keys(FINDING_LINKS)) expect(ids).to.include(id);
  });
});
