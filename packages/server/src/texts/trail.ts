import { catalogue } from '@pragmatica/core';

export const TRAIL_TEXTS = catalogue('server.trail', {
  undid: 'Undid change {entry} by {by}. {changes}',
  restored: 'Brought back {names}.',
  faults: {
    gap: 'Links before this one are missing: entries were taken out of the chain.',
    link: 'This link does not follow from the one before it: it was written over, or something before it was.',
    entry: 'This entry is not what it was when it was made: somebody changed it.',
    missing: 'This entry is gone, though it is not old enough to be removed.',
    head: 'The head that you kept is not in this chain: it was written anew since, or is another installation’s.',
  },
});
