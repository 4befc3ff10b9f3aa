import { catalogue } from '@pragmatica/core';

export const TRAIL_TEXTS = catalogue('server.trail', {
  undid: 'Undid change {entry} by {by}. {changes}',
  restored: 'Brought back {names}.',
  kinds: {
    site: 'The site',
    host: 'Host {key}',
    role: 'Role of {key}',
    member: 'Member {key}',
    environment: 'What {key} serves',
    finding: 'Accepted finding',
    watch: 'How the site is watched',
    rule: 'Approval',
  },
  values: {
    name: 'name',
    role: 'role',
    environment: 'environment',
    origin: 'origin',
    address: 'address',
    transfer: 'transfer',
    delivery: 'way of delivery',
    reason: 'reason',
    until: 'until',
    release: 'release',
    settings: 'settings',
    isNeeded: 'needed',
  },
  faults: {
    gap: 'Links before this one are missing: entries were taken out of the chain.',
    link: 'This link does not follow from the one before it: it was written over, or something before it was.',
    entry: 'This entry is not what it was when it was made: somebody changed it.',
    missing: 'This entry is gone, though it is not old enough to be removed.',
    head: 'The head that you kept is not in this chain: it was written anew since, or is another installation’s.',
  },
});
