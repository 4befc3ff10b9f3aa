/**
 * How often a property is tried. In the suite always with the same seed, so that a change is what breaks it and not
 * chance; more and other cases with PROPERTY_RUNS (a factor of it is taken) and PROPERTY_SEED.
 *
 * @param usual - runs in the suite
 */
export function propertyRuns(usual: number): { numRuns: number; seed?: number } {
  const { PROPERTY_RUNS: runs, PROPERTY_SEED: seed } = process.env;
  const numRuns =
    runs === undefined ? usual : Math.max(usual, Math.ceil((Number(runs) * usual) / USUAL_RUNS));
  if (seed !== undefined) return { numRuns, seed: Number(seed) };
  return runs === undefined ? { numRuns, seed: SEED } : { numRuns };
}

/** So often the longest properties are tried in the suite; PROPERTY_RUNS is in proportion to it. */
const USUAL_RUNS = 3000;
const SEED = 20261123;
