import type { Ability, Fit } from './delivery.js';

const ability =
  (fit: Fit) =>
  (words: () => string): Ability => ({
    fit,
    get words() {
      return words();
    },
  });

/** As if the parts stood in the page; the words say how. */
export const fully = ability('fully');

/** But for what the words say. */
export const partly = ability('partly');

/** Not at all; the words say why. */
export const not = ability('not');
