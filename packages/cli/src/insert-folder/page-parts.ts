import { createHash } from 'node:crypto';
import {
  ReleasePlanner,
  pageAddress,
  type PageLoad,
  type PreparedParts,
  type Snapshot,
} from '@pragmatica/core';

/** What pages of a folder get, and a name for it that is the same for the same parts, whatever the release. */
export class FolderParts {
  readonly #planner: ReleasePlanner;
  readonly #load: Omit<PageLoad, 'page'>;
  readonly #names = new WeakMap<PreparedParts, string>();

  constructor(snapshot: Snapshot, load: Omit<PageLoad, 'page'>) {
    this.#planner = new ReleasePlanner(snapshot, load.environment);
    this.#load = load;
  }

  of(path: string): PreparedParts {
    return this.#planner.prepare({ ...this.#load, page: pageAddress(path) });
  }

  nameOf(parts: PreparedParts): string {
    let name = this.#names.get(parts);
    if (name === undefined) {
      const hash = createHash('sha256');
      for (const [placement, list] of parts.placements)
        for (const part of list)
          hash.update(JSON.stringify([placement, part.key])).update(part.bytes('utf-8') ?? '');
      this.#names.set(parts, (name = hash.digest('base64url').slice(0, 22)));
    }
    return name;
  }
}
