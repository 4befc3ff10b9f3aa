import {
  applyFix,
  exampleSet,
  orderedParts,
  runChecks,
  type ExampleSnippet,
  type NamedPlacement,
} from '@pragmatica/core';
import { expect } from 'chai';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
const SAID: Readonly<Record<NamedPlacement, string>> = {
  'head-start': 'Paste this as high in the head as possible.',
  'head-end': 'Paste this just before the closing head tag.',
  'body-start': 'Paste this right after the opening body tag.',
  'body-end': 'Paste this just above the closing body tag.',
};
const PLACEMENTS = Object.keys(SAID) as NamedPlacement[];

const one = (name: string, placement: NamedPlacement, statement: string, code = COUNTER): ExampleSnippet => ({
  name,
  parts: [{ placement, code, statement }],
});

describe('the provider’s words', () => {
  for (const said of PLACEMENTS)
    for (const placement of PLACEMENTS) {
      // Earlier in the head than wanted does no harm.
      const isRight = said === placement || (said === 'head-end' && placement === 'head-start');
      it(`“${SAID[said]}” ${isRight ? 'fit' : 'do not fit'} ${placement}`, () => {
        const set = exampleSet([one('Counter', placement, SAID[said])]);
        const found = runChecks(set).filter(({ check }) => check === 'provider-said');
        expect(found).to.have.length(isRight ? 0 : 1);
        if (isRight) return;
        expect(found[0]!.advice).to.include(SAID[said]);
        const [part] = orderedParts(applyFix(set, found[0]!.fix!));
        expect(part!.part.placement).to.equal(said);
        expect(part!.part.statement).to.equal(SAID[said]);
      });
    }

  it('are not followed blindly: what shows something is not moved into the head', () => {
    const set = exampleSet([one('Notice', 'body-end', SAID['head-end'], '<div>Works on the slip</div>')]);
    const [found] = runChecks(set).filter(({ check }) => check === 'provider-said');
    expect(found!.fix).to.equal(undefined);
    expect(found!.advice).to.include('cannot simply be moved');
  });

  it('say nothing where they name no place, or somebody chose an element', () => {
    const words = 'Put it on the page where you want it to show.';
    expect(runChecks(exampleSet([one('Counter', 'body-end', words)]))).to.deep.equal([]);
    const anchored: ExampleSnippet = {
      name: 'Button',
      parts: [{ placement: { anchor: 'here', side: 'inside' }, code: COUNTER, statement: SAID['head-end'] }],
    };
    expect(runChecks(exampleSet([anchored]))).to.deep.equal([]);
  });

  describe('that it must be first', () => {
    const FIRST = 'This must be the first script in the head.';
    const other = (name: string): ExampleSnippet => ({
      name,
      parts: [
        {
          placement: 'head-start',
          code: `<script async src="https://${name.toLowerCase()}.example/a.js"></script>`,
        },
      ],
    });
    const order = (set: ReturnType<typeof exampleSet>): string[] =>
      orderedParts(set).map(({ snippet }) => snippet.name);
    const notFirst = (set: ReturnType<typeof exampleSet>) =>
      runChecks(set).filter(({ check }) => check === 'not-first');

    it('are followed by moving it to the front, the others in their order', () => {
      const set = exampleSet([other('One'), other('Two'), one('Ask', 'head-start', FIRST)]);
      const [found] = notFirst(set);
      expect(found!.title).to.equal('“Ask” must be first in the head, but “One” and “Two” run before it');
      expect(order(applyFix(set, found!.fix!))).to.deep.equal(['Ask', 'One', 'Two']);
    });

    it('hold for two at once: neither can be moved before the other', () => {
      const second = one(
        'Ask too',
        'head-start',
        FIRST,
        '<script src="https://crateline.example/c.js"></script>',
      );
      const set = exampleSet([one('Ask', 'head-start', FIRST), second, other('One')]);
      expect(notFirst(set)).to.deep.equal([]);
      const late = exampleSet([one('Ask', 'head-start', FIRST), other('One'), second]);
      const [found] = notFirst(late);
      expect(order(applyFix(late, found!.fix!))).to.deep.equal(['Ask', 'Ask too', 'One']);
    });

    it('do not count what is off, or what never meets it on a page', () => {
      const off = exampleSet([{ ...other('One'), state: 'off' }, one('Ask', 'head-start', FIRST)]);
      expect(notFirst(off)).to.deep.equal([]);
      const apart = exampleSet([
        { ...other('One'), include: ['/a'] },
        { ...one('Ask', 'head-start', FIRST), include: ['/b'] },
      ]);
      expect(notFirst(apart)).to.deep.equal([]);
    });

    it('are not read into “as high as possible”', () => {
      expect(
        notFirst(exampleSet([other('One'), one('Tags', 'head-start', SAID['head-start'])])),
      ).to.deep.equal([]);
    });
  });
});
