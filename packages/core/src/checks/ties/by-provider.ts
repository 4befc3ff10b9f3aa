import { domainOf } from '../../facts/index.js';
import { tieOfParts } from '../tie.js';

/** Accounts that they hold, and hosts and providers that they load from. */
export const byProvider = tieOfParts(({ facts: { accounts, hosts, loads } }) => [
  ...accounts.map(({ value }) => `account ${value}`),
  ...hosts.map((host) => `host ${host}`),
  ...loads.flatMap(({ address }) => {
    const domain = domainOf(address);
    return domain === undefined ? [] : [`domain ${domain}`];
  }),
]);
