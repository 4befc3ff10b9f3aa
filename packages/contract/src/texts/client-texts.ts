import { catalogue } from '@pragmatica/core';

/** What the client says where there is no service to say it. */
export const CLIENT_TEXTS = catalogue('contract.client', {
  unreachable:
    'Pragmatica does not answer at {address}. Check the address, and that the service is running (npm start).',
});
