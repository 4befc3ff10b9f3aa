import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyRecipe,
  exampleRecipe,
  filledSnapshot,
  givenValueProblems,
  withSnippet,
  siteNames,
  type Field,
  type Recipe,
  type Snapshot,
} from '@pragmatica/core';
import { propertyRuns } from '../../support/property-runs.js';
import { set, snippet } from '../../support/sets.js';

const CONTAINER: Recipe = exampleRecipe('crateline-container', 'Crateline container', {
  summary: 'Holds tags.',
  provider: 'Crateline',
  parts: [
    {
      key: 'loader',
      placement: 'head-start',
      required: true,
      code: '<script async src="https://crateline.example/crate.js?id=@{container}"></script>',
      statement: 'As high in the head as possible.',
    },
    {
      key: 'without-scripts',
      placement: 'body-start',
      required: true,
      code: '<noscript><iframe src="https://crateline.example/no.html?id=@{container}"></iframe></noscript>',
    },
  ],
  fields: [{ name: 'container', type: 'id', label: 'Container', example: 'CR-00-0' }],
});

const withFields = (snapshot: Snapshot, ...fields: Field[]): Snapshot => ({
  ...snapshot,
  site: { ...snapshot.site, fields },
});

describe('applying a recipe', () => {
  it('makes one snippet of all its pieces, and asks for its fields only', () => {
    const { snippet: made, fields } = applyRecipe(CONTAINER, siteNames(set()), {
      key: 'tags',
      name: 'Tags',
      values: [
        { name: 'container', value: 'CR-20-3' },
        { name: 'container', environment: 'staging', value: 'CR-20-9' },
      ],
    });
    expect(made).to.deep.include({
      key: 'tags',
      name: 'Tags',
      provider: 'Crateline',
      purpose: 'Holds tags.',
      recipe: { key: 'crateline-container', version: 1, fields: { container: 'container' } },
    });
    expect(made.parts.map(({ placement, statement }) => [placement, statement])).to.deep.equal([
      ['head-start', 'As high in the head as possible.'],
      ['body-start', undefined],
    ]);
    expect(fields).to.deep.equal([
      {
        name: 'container',
        type: 'id',
        label: 'Container',
        example: 'CR-00-0',
        value: 'CR-20-3',
        staging: 'CR-20-9',
      },
    ]);
    const draft = withSnippet(withFields(set(), ...fields), made);
    for (const [environment, value] of [
      ['live', 'CR-20-3'],
      ['staging', 'CR-20-9'],
    ] as const)
      expect(filledSnapshot(draft, environment).snippets[0]!.parts.map(({ code }) => code)).to.satisfy(
        (codes: string[]) => codes.every((code) => code.includes(`?id=${value}"`)),
      );
  });

  it('takes a field of the site that nobody uses, and leaves one that is used to its snippet', () => {
    const container: Field = { name: 'container', type: 'id', label: 'Old', value: 'CR-1' };
    const unused = applyRecipe(CONTAINER, siteNames(withFields(set(), container)), {
      key: 'tags',
      name: 'Tags',
      values: [],
    });
    expect(unused.snippet.recipe!.fields).to.deep.equal({ container: 'container' });
    expect(unused.fields).to.deep.equal([container]);
    const using = snippet('first', {
      parts: [{ placement: 'head-end', rank: 0, code: '<i title="@{container}"></i>' }],
    });
    const second = applyRecipe(CONTAINER, siteNames(withFields(set(using), container)), {
      key: 'more-tags',
      name: 'More tags',
      values: [{ name: 'container', value: 'CR-2' }],
    });
    expect(second.snippet.recipe!.fields).to.deep.equal({ container: 'more_tags_container' });
    expect(second.snippet.parts[0]!.code).to.include('id=@{more_tags_container}"');
    expect(second.fields.map(({ name, value }) => [name, value])).to.deep.equal([
      ['container', 'CR-1'],
      ['more_tags_container', 'CR-2'],
    ]);
    const other: Field = { ...container, type: 'phone' };
    expect(
      applyRecipe(CONTAINER, siteNames(withFields(set(), other)), { key: 'tags', name: 'Tags', values: [] })
        .snippet.recipe!.fields,
    ).to.deep.equal({ container: 'tags_container' });
  });

  it('never shares a field between two installs, however they are called', () => {
    const key = fc.stringMatching(/^[a-z0-9][a-z0-9-]{0,50}[a-z0-9]$/);
    fc.assert(
      fc.property(fc.uniqueArray(key, { minLength: 2, maxLength: 6 }), (keys) => {
        let draft = set();
        for (const one of keys) {
          const { snippet: made, fields } = applyRecipe(CONTAINER, siteNames(draft), {
            key: one,
            name: one,
            values: [{ name: 'container', value: `CR-${one}` }],
          });
          draft = withSnippet(withFields(draft, ...fields), made);
        }
        const filled = filledSnapshot(draft, 'live');
        return filled.snippets.every(({ key: own, parts }) =>
          parts.every(({ code }) => code.includes(`id=CR-${own}"`)),
        );
      }),
      propertyRuns(100),
    );
  });

  it('refuses values that are not asked for, or do not fit', () => {
    expect(
      givenValueProblems(CONTAINER, [
        { name: 'contaner', value: 'CR-1' },
        { name: 'container', value: 'two words' },
        { name: 'container', value: 'CR-20-3' },
      ]),
    ).to.deep.equal([
      {
        index: 0,
        message: '“Crateline container” asks for no value called “contaner”. It asks for: container.',
      },
      {
        index: 1,
        message:
          '“Container” cannot be “two words”. Use only letters, digits, dots, colons, slashes, dashes and underscores.',
      },
    ]);
  });
});
