import {
  broughtDefinition,
  broughtNames,
  plainName,
  type Definition,
  type Load,
  type Use,
} from '../../facts/index.js';
import type { CheckedSet } from '../checked-set.js';
import type { ReadPart } from '../read-part.js';

export interface Definer {
  readonly part: ReadPart;
  readonly definition: Definition;
}

/** Who makes which global, in page order, whether on or off. */
export function definers({ near }: Pick<CheckedSet, 'near'>): Map<string, Definer[]> {
  const found = new Map<string, Definer[]>();
  for (const part of near.parts)
    for (const definition of part.facts.defines) {
      const list = found.get(definition.name);
      if (list) list.push({ part, definition });
      else found.set(definition.name, [{ part, definition }]);
    }
  return found;
}

/** Who makes a global, or most likely does: where nothing that runs is known to, files that are called so. */
export class Makers {
  readonly #known: ReadonlyMap<string, readonly Definer[]>;
  readonly #files = new Map<string, { part: ReadPart; load: Load }[]>();

  constructor(set: CheckedSet) {
    this.#known = definers(set);
    for (const part of set.near.parts)
      for (const load of part.facts.loads) {
        if (!set.files.isUnread(load)) continue;
        for (const name of broughtNames(load)) {
          const list = this.#files.get(name);
          if (list) list.push({ part, load });
          else this.#files.set(name, [{ part, load }]);
        }
      }
  }

  of(name: string): readonly Definer[] {
    const known = this.#known.get(name) ?? [];
    if (known.some(({ part }) => part.isOn)) return known;
    const called = this.#files.get(plainName(name)) ?? [];
    return [
      ...known,
      ...called.map(({ part, load }) => ({ part, definition: broughtDefinition(load, name, 'guess') })),
    ];
  }
}

/** Uses that stop the script when the name is missing. */
export function* openUses(set: CheckedSet): Generator<{ part: ReadPart; use: Use }> {
  for (const part of set.running) for (const use of part.facts.uses) if (!use.isGuarded) yield { part, use };
}
