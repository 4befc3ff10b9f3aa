import type { RecipeInput } from '@pragmatica/contract';

/** A small recipe with a field and a step for each host. */
export const GAUGE: RecipeInput = {
  format: 'pragmatica-recipe/1',
  key: 'tide-gauge',
  version: 1,
  name: 'Tide gauge',
  provider: 'Tidegauge',
  summary: 'Counts the tide.',
  parts: [
    {
      key: 'loader',
      placement: 'head-end',
      code: '<script async src="https://tidegauge.example/g.js?id=@{gauge}"></script>',
    },
  ],
  fields: [{ name: 'gauge', type: 'id', label: 'Gauge', example: 'TG-0' }],
  steps: [{ key: 'domain', per: 'host', title: 'List {host}', open: '{host} is not listed' }],
};
