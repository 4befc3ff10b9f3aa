export const ACTIVITY = {
  activity: 'Activity',
  nothingHappenedYet: 'Nothing has happened yet',
  everyChangeAppears: 'Every change appears here, with who made it and when.',
  earlier: 'Earlier changes',
} as const;
