/**
 * Whether something is still there in a page without some snippets. Asks for a visit.
 *
 * @param without - keys of the snippets that are left out
 */
export type SymptomTest = (without: readonly string[]) => Promise<boolean>;

/**
 * Finds which snippets cause something: the smallest set without which it is gone. It is known to be there with all of them, and to be
 * gone without any. Those under suspicion are tried first; then halves are left out in turn (delta debugging; Zeller and
 * Hildebrandt 2002, the minimizing algorithm over what is left out), so that of n snippets with one culprit about 2 log n
 * visits are needed.
 *
 * @param keys - of all snippets in the page
 * @param suspects - whom the calls that led to it name
 * @param most - visits at most; where they do not suffice nobody is blamed
 * @returns keys of the culprits; of several each alone is enough to make it go away only together with the others
 */
export async function blame(
  keys: readonly string[],
  suspects: readonly string[],
  isThere: SymptomTest,
  most = 24,
): Promise<readonly string[]> {
  let visits = 0;
  const known = new Map<string, Promise<boolean>>();
  const isGone = async (without: readonly string[]): Promise<boolean> => {
    const key = [...without].sort().join('\n');
    let asked = known.get(key);
    if (!asked) {
      if (++visits > most) throw new TooManyVisits();
      known.set(key, (asked = isThere(without)));
    }
    return !(await asked);
  };
  try {
    for (const suspect of new Set(suspects)) if (await isGone([suspect])) return [suspect];
    return await smallest(keys, isGone);
  } catch (error) {
    if (error instanceof TooManyVisits) return [];
    throw error;
  }
}

class TooManyVisits extends Error {}

/** The smallest set whose leaving out makes it go away; no element of it can be spared. */
async function smallest(
  keys: readonly string[],
  isGone: (without: readonly string[]) => Promise<boolean>,
): Promise<readonly string[]> {
  let left = [...keys];
  let pieces = 2;
  while (left.length > 1) {
    const size = Math.ceil(left.length / pieces);
    const chunks = Array.from({ length: Math.ceil(left.length / size) }, (_, index) =>
      left.slice(index * size, (index + 1) * size),
    );
    const chunk = await firstOf(chunks, isGone);
    if (chunk) {
      left = chunk;
      pieces = 2;
      continue;
    }
    const rest =
      chunks.length > 2
        ? await firstOf(
            chunks.map((one) => left.filter((key) => !one.includes(key))),
            isGone,
          )
        : undefined;
    if (rest) {
      left = rest;
      pieces = Math.max(2, pieces - 1);
      continue;
    }
    if (size === 1) return left;
    pieces = Math.min(left.length, pieces * 2);
  }
  return left;
}

async function firstOf(
  sets: readonly string[][],
  isGone: (without: readonly string[]) => Promise<boolean>,
): Promise<string[] | undefined> {
  // Two at once: a browser has room for as many.
  for (let at = 0; at < sets.length; at += 2) {
    const pair = sets.slice(at, at + 2);
    const gone = await Promise.all(pair.map(isGone));
    const found = gone.indexOf(true);
    if (found >= 0) return pair[found];
  }
  return undefined;
}
