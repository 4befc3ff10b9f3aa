import type { Definition, Use } from '../../facts/index.js';
import type { CheckedSet } from '../checked-set.js';
import type { ReadPart } from '../read-part.js';

export interface Definer {
  readonly part: ReadPart;
  readonly definition: Definition;
}

/** Who makes which global, in page order, whether on or off. */
export function definers(set: CheckedSet): Map<string, Definer[]> {
  const found = new Map<string, Definer[]>();
  for (const part of set.parts)
    for (const definition of part.facts.defines) {
      const list = found.get(definition.name);
      if (list) list.push({ part, definition });
      else found.set(definition.name, [{ part, definition }]);
    }
  return found;
}

/** Uses that stop the script when the name is missing. */
export function* openUses(set: CheckedSet): Generator<{ part: ReadPart; use: Use }> {
  for (const part of set.running) for (const use of part.facts.uses) if (!use.isGuarded) yield { part, use };
}
