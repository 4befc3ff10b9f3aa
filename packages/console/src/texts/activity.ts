import { catalogue } from '@pragmatica/core';

export const ACTIVITY = catalogue('console.activity', {
  activity: 'Activity',
  lead: 'Who changed what, and when. The newest is at the top.',
  nothingHappenedYet: 'Nothing has happened yet',
  everyChangeAppears: 'Every change appears here, with who made it and when.',
  earlier: 'Earlier changes',
});
