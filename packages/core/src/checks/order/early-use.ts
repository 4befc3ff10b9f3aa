import { memoizeByObject } from '../../memoize/by-object.js';
import { broughtNames, plainName, whenFileRuns, type Load, type Use } from '../../facts/index.js';
import { VERDICTS, happensBefore, type Verdict } from '../../order/index.js';
import type { CheckedSet } from '../checked-set.js';
import type { ReadPart } from '../read-part.js';

/** That a part uses what a file of its own most likely brings, before that file has run. */
export interface EarlyUse {
  readonly use: Use;
  readonly load: Load;
  readonly verdict: Exclude<Verdict, 'fine'>;
}

/** Names that a part uses before the file of its own that is called so; each once. */
export function earlyUses(set: CheckedSet, part: ReadPart): EarlyUse[] {
  const files = part.facts.loads.filter((load) => set.files.isUnread(load));
  if (files.length === 0) return [];
  const told = new Set<string>();
  return part.facts.uses.flatMap((use): EarlyUse[] => {
    if (use.isGuarded || use.when === 'later' || told.has(use.name)) return [];
    const called = files.filter((load) => broughtNames(load).includes(plainName(use.name)));
    const found = called.map((load) => ({ use, load, verdict: verdictOf(part, load, use) }));
    // One that is there in time is enough.
    const worst = found.find(({ verdict }) => verdict !== 'fine');
    if (!worst || found.some(({ verdict }) => verdict === 'fine')) return [];
    told.add(use.name);
    return [worst as EarlyUse];
  });
}

/** Within one part, what stands first in its text is read first. */
function verdictOf({ part: { placement } }: ReadPart, load: Load, use: Use): Verdict {
  return VERDICTS[
    happensBefore(
      { when: whenFileRuns(load), position: load.range.start, placement },
      { when: use.when, position: use.range.start, placement },
    )
  ];
}

/** Whether code needs a script file to have run where it stands: letting it come at any time would break that code. */
export function isWaitedFor(set: CheckedSet, part: ReadPart, load: Load): boolean {
  const names = broughtNames(load);
  const isCalled = names.length > 0 && set.files.isUnread(load);
  return (
    (isCalled &&
      part.facts.uses.some(({ name, when }) => when !== 'later' && names.includes(plainName(name)))) ||
    neededFiles(set).has(`${part.key} ${load.address}`)
  );
}

/** Files that other parts need to have run, by part and address. */
const neededFiles = memoizeByObject(
  (set: CheckedSet): ReadonlySet<string> =>
    new Set(
      set.order.dependencies.flatMap(({ first, then, reason }) =>
        first !== then && reason.kind === 'name' && reason.use.when !== 'later'
          ? [`${first.key} ${reason.definition.from ?? ''}`]
          : [],
      ),
    ),
);
