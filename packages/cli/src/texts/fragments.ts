import { catalogue } from '@pragmatica/core';

export const FRAGMENTS = catalogue('cli.fragments', {
  description: 'what to write into templates, so that your own web server includes what pages get',
  ssi: 'In the templates, as server-side includes (nginx, “ssi on”):',
  esi: 'Or as Edge Side Includes:',
  anchor:
    'At an element: before:ID, inside:ID, inside-end:ID or after:ID in place of the placement; a selector, percent-encoded, in place of the id.',
  nginx: 'nginx, in the server block:',
  json: 'For templates of your own, a page’s plan as JSON:',
});
