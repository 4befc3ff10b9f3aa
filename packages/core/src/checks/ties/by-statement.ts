import type { Tie } from '../tie.js';

/** What somebody said must come before. */
export const byStatement: Tie = ({ own: { key, needs = [] } }) => [key, ...needs];
