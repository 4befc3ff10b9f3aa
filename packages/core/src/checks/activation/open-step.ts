import { exampleRecipe } from '../examples.js';
import { defineCheck } from '../check.js';

const CHAT = '<script async src="https://parlanook.example/chat.js"></script>';

export const openStep = defineCheck({
  id: 'open-step',
  area: 'activation',
  severity: 'warning',
  title: 'Something still to be done at the provider',
  why: 'Code alone is not enough: the provider has to know your site too. Until then it may show nothing or discard your data, and the page gives no hint.',
  given:
    'The first follows a recipe with a step at the provider that nobody has ticked yet; the second follows none.',
  recipes: [
    exampleRecipe('parlanook-chat', 'Parlanook chat', {
      parts: [{ key: 'loader', placement: 'body-end', required: true, code: CHAT }],
      steps: [
        {
          key: 'domain',
          per: 'site',
          title: 'Register the site with Parlanook',
          open: 'the site is not registered with Parlanook',
        },
      ],
    }),
  ],
  asks: ['recipes'],
  messages: {
    open: {
      title: '“{snippet}”: {open}',
      advice: '{step}. Then tick it off on the site’s checklist.',
    },
    'open-with-help': {
      title: '“{snippet}”: {open}',
      advice: '{step}. {help} Then tick it off on the site’s checklist.',
    },
  },
  isFixable: false,
  wrong: [{ name: 'Harbour chat', recipe: 'parlanook-chat', parts: [{ placement: 'body-end', code: CHAT }] }],
  right: [{ name: 'Harbour chat', parts: [{ placement: 'body-end', code: CHAT }] }],
  *runOnWhole(set) {
    for (const { recipe, step, host, title, open, snippets, tick } of set.checklist) {
      if (tick) continue;
      yield {
        about: JSON.stringify([recipe.key, step.key, host]),
        message: step.help === undefined ? 'open' : 'open-with-help',
        params: { snippet: snippets[0]!.name, open, step: title, help: step.help ?? '' },
        subjects: snippets.map(({ key, name }) => ({ snippet: key, name })),
        evidence: [],
      };
    }
  },
});
