import {
  CHECKS,
  applyFix,
  canonicalJson,
  exampleSet,
  factWords,
  normalForm,
  placementKey,
  readCode,
  runChecks,
  suggestParts,
  type ExampleSnippet,
  type Facts,
  type NamedPlacement,
  type Range,
} from '@pragmatica/core';
import { snapshot as snapshotSchema } from '@pragmatica/contract';
import { expect } from 'chai';
import fc from 'fast-check';
import { propertyRuns } from '../support/property-runs.js';
import { CORPUS } from '../corpus/corpus.js';

const CODES = CORPUS.map(({ code }) => code);
const PLACEMENTS: readonly NamedPlacement[] = ['head-start', 'head-end', 'body-start', 'body-end'];

/** Code as it comes out of a message or a bad copy: whole, cut, doubled, with pieces of other code in it. */
const damaged: fc.Arbitrary<string> = fc
  .record({
    code: fc.constantFrom(...CODES),
    other: fc.constantFrom(...CODES),
    from: fc.double({ min: 0, max: 1, noNaN: true }),
    to: fc.double({ min: 0, max: 1, noNaN: true }),
    noise: fc.constantFrom(
      '',
      '<',
      '</',
      '"',
      "'",
      '`',
      '<!--',
      '-->',
      '</script>',
      '&lt;',
      '\u0000',
      '\ud800',
      '}',
      '(',
      '\\',
    ),
    how: fc.constantFrom('cut', 'put in', 'doubled', 'mixed'),
  })
  .map(({ code, other, from, to, noise, how }) => {
    const [start, end] = [Math.min(from, to) * code.length, Math.max(from, to) * code.length];
    if (how === 'cut') return code.slice(start, end) + noise;
    if (how === 'put in') return code.slice(0, start) + noise + code.slice(start);
    if (how === 'doubled') return code + noise + code;
    return code.slice(0, start) + other + code.slice(end);
  });

/** Every range that facts hold. */
function* ranges(facts: Facts): Generator<Range> {
  const lists: readonly (readonly { readonly range: Range }[])[] = [
    ...[facts.problems, facts.loads, facts.defines, facts.uses, facts.needs, facts.makes, facts.accounts],
    ...[facts.settings, facts.events, facts.storage, facts.boxes, facts.writes, facts.marks, facts.pieces],
  ];
  for (const list of lists) for (const { range } of list) yield range;
}

describe('reading whatever is pasted', () => {
  it('never fails, gives the same every time, and points into the code', () => {
    fc.assert(
      fc.property(damaged, (code) => {
        const facts = readCode(code);
        expect(readCode(code)).to.deep.equal(facts);
        for (const { start, end } of ranges(facts)) {
          expect(start).to.be.at.least(0);
          expect(end).to.be.at.least(start);
          expect(end).to.be.at.most(code.length);
        }
        for (const { line, column } of facts.problems) {
          expect(line).to.be.at.least(1);
          expect(line).to.be.at.most(code.split(/\r\n?|\n/).length);
          expect(column).to.be.at.least(1);
        }
      }),
      propertyRuns(300),
    );
  });

  it('is told in words without a hole', () => {
    fc.assert(
      fc.property(damaged, (code) => {
        for (const { title, lines } of factWords(readCode(code))) {
          expect(title).to.match(/^[A-Z]/);
          expect(lines).not.to.deep.equal([]);
          for (const line of lines) expect(line).not.to.match(/undefined|\[object|NaN|null/);
        }
      }),
      propertyRuns(200),
    );
  });

  it('loses none of the code when it is kept in several parts', () => {
    const solid = (text: string): string => text.replace(/\s+/g, '');
    fc.assert(
      fc.property(damaged, (code) => {
        expect(
          solid(
            suggestParts(code)
              .map((part) => part.code)
              .join(''),
          ),
        ).to.equal(solid(code));
      }),
      propertyRuns(200),
    );
  });

  it('counts bytes as they are sent', () => {
    for (const code of CODES) expect(readCode(code).bytes).to.equal(Buffer.byteLength(code));
  });
});

const snippets: fc.Arbitrary<ExampleSnippet[]> = fc
  .array(
    fc.record({
      code: fc.oneof(fc.constantFrom(...CODES), damaged),
      placement: fc.constantFrom(...PLACEMENTS),
      state: fc.constantFrom(
        'on' as const,
        'on' as const,
        'on' as const,
        'off' as const,
        'archived' as const,
      ),
      include: fc.constantFrom<string[]>([], [], ['/fares'], ['/news/*']),
      needs: fc.constantFrom<string[]>([], [], ['s-0'], ['s-1', 'gone']),
    }),
    { minLength: 1, maxLength: 6 },
  )
  .map((made) =>
    made.map(({ code, placement, ...rest }, i) => ({
      name: `S ${i}`,
      parts: [{ placement, code: code || ' ' }],
      ...rest,
    })),
  );

describe('checks over whatever is in a set', () => {
  it('never fail, find the same every time, and tell findings apart', () => {
    fc.assert(
      fc.property(snippets, (list) => {
        const set = exampleSet(list);
        const found = runChecks(set);
        expect(runChecks(set)).to.deep.equal(found);
        const ids = found.map(({ id }) => id);
        expect(new Set(ids).size, ids.join('\n')).to.equal(ids.length);
        for (const { check, subjects, title, advice } of found) {
          expect(CHECKS.some(({ id }) => id === check)).to.equal(true);
          expect(subjects).not.to.deep.equal([]);
          expect(title + advice).not.to.match(/undefined|\[object|NaN/);
        }
      }),
      propertyRuns(120),
    );
  });

  it('do not depend on the order in which snippets were added', () => {
    fc.assert(
      fc.property(snippets, (list) => {
        const set = exampleSet(list);
        const turned = { ...set, snippets: [...set.snippets].reverse() };
        const ids = (of: typeof set): string[] =>
          runChecks(of)
            .map(({ id }) => id)
            .sort();
        expect(ids(turned)).to.deep.equal(ids(set));
      }),
      propertyRuns(60),
    );
  });

  it('have fixes after which the set is still one, and the finding is gone', () => {
    fc.assert(
      fc.property(snippets, (list) => {
        const set = exampleSet(list);
        for (const { id, fix } of runChecks(set)) {
          if (!fix) continue;
          const fixed = applyFix(set, fix);
          expect(snapshotSchema.safeParse(JSON.parse(canonicalJson(fixed))).success).to.equal(true);
          expect(runChecks(fixed).map((finding) => finding.id)).not.to.include(id);
          const ranks = fixed.snippets.flatMap(({ parts }) =>
            parts.map(({ placement, rank }) => `${placementKey(placement)} ${rank}`),
          );
          expect(ranks.length).to.be.at.least(1);
        }
      }),
      propertyRuns(60),
    );
  });
});

describe('the normal form of code', () => {
  /** Ways to write the same markup. */
  const SAME: readonly ((code: string) => string)[] = [
    (code) => code.replace(/="([^"'<>]*)"/g, "='$1'"),
    (code) =>
      code
        .replace(/<(\w+)/g, (_, name: string) => `<${name.toUpperCase()}`)
        .replace(/<\/(\w+)/g, (_, name: string) => `</${name.toUpperCase()}`),
    (code) => `\n  ${code}\n`,
    (code) => code.replace(/ async/g, ' async=""'),
    (code) => code.replace(/<(\w+) ([\w-]+="[^"]*") ([\w-]+="[^"]*")/g, '<$1 $3 $2'),
  ];
  const MARKUP = [
    '<script async src="https://tallymast.example/t.js" data-id="TM-1"></script>',
    '<link rel="stylesheet" href="https://files.example/a.css">',
    '<div class="a" id="b"><p title="x">text</p></div>',
    '<iframe width="1" height="2" src="https://slotwell.example/b"></iframe>',
  ];
  for (const code of MARKUP)
    it(`is one for every way to write ${code.slice(0, 40)}…`, () => {
      for (const write of SAME) expect(normalForm(write(code)), write(code)).to.equal(normalForm(code));
    });

  const SCRIPT = "function tide(a, b) { if (a) { return b + 'x'; } return [1, 2, { c: 3 }]; }\ntide(1, 2);";
  const REWRITTEN: readonly [what: string, code: string][] = [
    ['without spaces', "function tide(a,b){if(a){return b+'x'}return[1,2,{c:3}]}tide(1,2)"],
    ['with other quotes', SCRIPT.replaceAll("'", '"')],
    ['with comments', `/* tides */ ${SCRIPT.replace('return b', '// sum\n return b')}`],
    ['on many lines', SCRIPT.replaceAll('; ', ';\n\n').replaceAll(', ', ',\n')],
  ];
  for (const [what, code] of REWRITTEN)
    it(`is one for a script ${what}`, () =>
      expect(normalForm(`<script>${code}</script>`)).to.equal(normalForm(`<script>${SCRIPT}</script>`)));

  const OTHERS: readonly [what: string, code: string][] = [
    ['another number', SCRIPT.replace('3', '4')],
    ['another text', SCRIPT.replace("'x'", "'y'")],
    ['another order', SCRIPT.replace('(1, 2)', '(2, 1)')],
    ['one statement less', SCRIPT.replace('\ntide(1, 2);', '')],
  ];
  for (const [what, code] of OTHERS)
    it(`is another for ${what}`, () =>
      expect(normalForm(`<script>${code}</script>`)).not.to.equal(normalForm(`<script>${SCRIPT}</script>`)));
});
