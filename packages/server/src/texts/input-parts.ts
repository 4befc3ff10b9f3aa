import { catalogue } from '@pragmatica/core';

/** What of a request is wrong. */
export const INPUT_PARTS = catalogue('server.input-parts', {
  address: { whole: 'The address', field: '{field} (address)' },
  query: { whole: 'The query', field: '{field} (query)' },
  body: { whole: 'The body', field: '{field} (body)' },
});
