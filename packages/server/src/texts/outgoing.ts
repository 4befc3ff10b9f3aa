import { catalogue } from '@pragmatica/core';

export const OUTGOING_TEXTS = catalogue('server.outgoing', {
  addressIsPrivate:
    '{address} is an address of a private network, which Pragmatica does not visit. If the site really is there, set PRAGMATICA_LOCAL_ORIGINS=1 on the service',
  hostnameHasNo: '{hostname} has no address',
});
