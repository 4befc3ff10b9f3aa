import { expect } from 'chai';
import {
  applyRecipe,
  filledCode,
  filledSnapshot,
  recipeFromSnippet,
  recipeProblems,
  withSnippet,
  siteNames,
  type Field,
  type SnapshotSnippet,
} from '@pragmatica/core';
import { CORPUS } from '../../corpus/corpus.js';
import { part, set, snippet } from '../../support/sets.js';

const GAUGE = `<script async src="https://cdn.tidegauge.example/g.js?site=TG-55812"></script>
<script>window.gauge = window.gauge || []; gauge.push(['account', 'TG-55812']);</script>`;

const gauge = (change: Partial<SnapshotSnippet> = {}): SnapshotSnippet =>
  snippet('tide-gauge', { name: 'Tide gauge', parts: [part('head-end', 0, GAUGE)], ...change });
const make = (one: SnapshotSnippet, fields: Field[] = []) => {
  const draft = set(one);
  return recipeFromSnippet(
    one,
    { ...draft, site: { ...draft.site, fields } },
    { key: 'gauge', name: 'Gauge' },
  );
};

describe('a recipe made from a snippet', () => {
  it('asks for the accounts in the code, with an example that is nobody’s', () => {
    const { recipe, fields, parts, names } = make(
      gauge({ purpose: 'Counts the tide.', provider: 'Tidegauge' }),
    );
    expect(recipe).to.deep.include({
      format: 'pragmatica-recipe/1',
      key: 'gauge',
      version: 1,
      name: 'Gauge',
      provider: 'Tidegauge',
      summary: 'Counts the tide.',
      recognise: { hosts: ['cdn.tidegauge.example'], addresses: [], globals: [] },
      fields: [{ name: 'site', type: 'id', label: 'Site at tidegauge.example', example: 'TG-00000' }],
    });
    expect(recipe.parts.map(({ key, code }) => [key, code])).to.deep.equal([
      ['loader', GAUGE.replaceAll('TG-55812', '@{site}')],
    ]);
    expect(fields).to.deep.equal([
      {
        name: 'site',
        type: 'id',
        label: 'Site at tidegauge.example',
        example: 'TG-00000',
        value: 'TG-55812',
      },
    ]);
    expect(parts[0]!.code).to.equal(recipe.parts[0]!.code);
    expect(names).to.deep.equal({ site: 'site' });
  });

  it('takes the site’s own field where one holds just that account', () => {
    const field: Field = { name: 'gauge_site', type: 'id', label: 'Gauge', value: 'TG-55812' };
    const { recipe, fields } = make(gauge(), [field]);
    expect(fields).to.deep.equal([field]);
    expect(recipe.parts[0]!.code).to.include('site=@{gauge_site}"');
  });

  it('does not touch what would not be the same again', () => {
    const code =
      '<script src="https://tidegauge.example/g.js?site=TG-55812"></script><script>// TG-55812\n</script>';
    const { recipe, fields } = make(gauge({ parts: [part('head-end', 0, code)] }));
    expect([recipe.parts[0]!.code, fields]).to.deep.equal([code, []]);
  });

  it('names what it comes after by the recipes of the snippets that it needs', () => {
    const needing = gauge({ needs: ['question', 'other'] });
    const question = snippet('question', { recipe: { key: 'biscuitkeel-question', version: 3, fields: {} } });
    const draft = set(question, snippet('other'), needing);
    expect(recipeFromSnippet(needing, draft, { key: 'g', name: 'G' }).recipe.after).to.deep.equal([
      'biscuitkeel-question',
    ]);
  });

  it('makes the next version of the recipe that the snippet follows, its steps and pieces known by their keys', () => {
    const first = make(gauge());
    const steps = [{ key: 'list', per: 'site' as const, title: 'Put it on the list', open: 'it is not' }];
    const followed = { ...first.recipe, steps };
    const installed = applyRecipe(followed, siteNames(set()), {
      key: 'other-gauge',
      name: 'Other gauge',
      values: [{ name: 'site', value: 'TG-1' }],
    });
    const base = set();
    const draft = withSnippet(
      { ...base, site: { ...base.site, fields: installed.fields } },
      installed.snippet,
    );
    const changed: SnapshotSnippet = {
      ...draft.snippets[0]!,
      parts: [{ ...draft.snippets[0]!.parts[0]!, placement: 'head-start' }],
    };
    const { recipe } = recipeFromSnippet(
      changed,
      { ...draft, snippets: [changed] },
      {
        key: followed.key,
        name: followed.name,
        followed,
      },
    );
    expect(recipe).to.deep.equal({
      ...followed,
      version: 2,
      parts: [{ ...followed.parts[0]!, placement: 'head-start' }],
    });
  });

  it('gives the very same code again where it is applied with the same values, for all kinds of snippets', () => {
    let made = 0;
    for (const { name, code, placement } of CORPUS) {
      const one = snippet('one', { name: 'One', parts: [part(placement, 0, code)] });
      const { recipe, fields, parts } = make(one);
      expect(filledCode(parts[0]!.code, fields, 'live'), name).to.equal(code);
      // Code that could not stand in a page cannot be a recipe.
      if (recipeProblems(recipe).length > 0) continue;
      made++;
      const values = fields.map(({ name: field, value = '' }) => ({ name: field, value }));
      const applied = applyRecipe(recipe, siteNames(set()), { key: 'two', name: 'Two', values });
      const base = set();
      const draft = withSnippet({ ...base, site: { ...base.site, fields: applied.fields } }, applied.snippet);
      expect(filledSnapshot(draft, 'live').snippets[0]!.parts[0]!.code, name).to.equal(code);
    }
    expect(made).to.be.greaterThan(CORPUS.length / 2);
  });
});
