import { tieOfParts } from '../tie.js';

/** Elements that they make, look for or fill. */
export const byId = tieOfParts(({ facts: { makes, needs, targets } }) => [
  ...[...makes, ...targets].map(({ id }) => id),
  ...needs.flatMap(({ id }) => id ?? []),
]);
