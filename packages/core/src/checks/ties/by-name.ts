import { broughtNames, plainName } from '../../facts/index.js';
import { tieOfParts } from '../tie.js';

/** Globals that they make, throw away or use, and such as the files that they load are called. */
export const byName = tieOfParts(({ facts: { defines, uses, resets, loads } }) => [
  ...[...defines, ...uses, ...resets].map(({ name }) => plainName(name)),
  ...loads.flatMap((load) => broughtNames(load)),
]);
