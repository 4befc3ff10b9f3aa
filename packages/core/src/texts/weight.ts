import { catalogue } from './catalogue.js';

/** What snippets cost on a page, held against what they may cost. */
export const WEIGHT_TEXTS = catalogue('core.weight', {
  over: 'Your snippets add {added} kB to {path}: {over} kB more than the budget of {budget} kB.',
  within: 'Your snippets add {added} kB to {path}, within the budget of {budget} kB.',
  adds: 'Your snippets add {added} kB to {path}.',
  heaviest: '“{name}” alone is {bytes} kB. Switch it off there, or run it on fewer pages.',
  spread: 'No single snippet is to blame. Run some of them on fewer pages.',
});
