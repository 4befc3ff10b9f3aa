import { broughtDefinition, type Facts, type ReadCode } from '../facts/index.js';
import { memoizeByObject } from '../memoize/by-object.js';
import { filesLoadedBy, type FileBook } from '../survey/index.js';

/** What code does, with what the files do that it loads, as far as these are known. */
export const factsWithFiles = memoizeByObject((files: FileBook) =>
  memoizeByObject(({ facts }: ReadCode): Facts => {
    const brought = filesLoadedBy(facts).flatMap((load) =>
      (files.find(load.address)?.defines ?? []).map((name) => broughtDefinition(load, name, 'likely')),
    );
    const own = new Set(facts.defines.map(({ name }) => name));
    const added = brought.filter(({ name }) => !own.has(name));
    return added.length === 0 ? facts : { ...facts, defines: [...facts.defines, ...added] };
  }),
);
