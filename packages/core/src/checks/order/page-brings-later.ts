import { isAnchor } from '../../insert/index.js';
import { isBroughtByLoader } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import type { Use } from '../../facts/index.js';
import type { CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';
import type { PageDefiner } from '../page-code.js';
import type { ReadPart } from '../read-part.js';
import { definers, openUses } from './definitions.js';

const CALENDAR = "<script>Tidebook.open('#calendar');</script>";
const page = (head: string): string =>
  `<!DOCTYPE html><html><head><title>Fares</title>${head}</head><body><p id="calendar">Fares</p></body></html>`;

export const pageBringsLater = defineCheck({
  id: 'page-brings-later',
  area: 'order',
  severity: 'error',
  title: 'Code that needs something which the page itself brings later',
  why: 'The site loads a library or defines a function itself, but only further down. Code that calls it before stops with an error, and visitors see nothing.',
  messages: {
    later: {
      title: '{part} needs “{name}”, which {page} brings only further down',
      advice: '“{name}” comes with {file}, which stands below. Place {part} at the end of the body.',
      fix: 'Move it to the end of the body.',
    },
    'ready-later': {
      title: '{part} needs “{name}”, which {page} has only later',
      advice:
        '{file} makes it {ready, select, deferred {when the whole page has been read} async {when it has arrived, sooner or later} other {on an event or after a while}}. Let {part} wait for it.',
    },
    race: {
      title: '{part} may run before “{name}” is there on {page}',
      advice:
        '{file} makes it {ready, select, deferred {when the whole page has been read} async {when it has arrived, sooner or later} other {on an event or after a while}}. Let {part} wait for it.',
    },
  },
  roles: { uses: 'needs “{name}”' },
  isFixable: true,
  wrong: [{ name: 'Calendar', parts: [{ placement: 'head-start', code: CALENDAR }] }],
  right: [{ name: 'Calendar', parts: [{ placement: 'body-end', code: CALENDAR }] }],
  pages: { '/fares': page('<script>var Tidebook = { open: function () {} };</script>') },
  *run(set) {
    const makers = definers(set);
    const told = new Set<string>();
    for (const { part, use } of openUses(set)) {
      const key = `${part.key} ${use.name}`;
      // What runs later on an event finds it there nearly always.
      if (use.when === 'later' || makers.has(use.name) || told.has(key)) continue;
      if (isBroughtByLoader(part, use)) continue;
      const late = firstLate(set, part, use);
      if (!late) continue;
      told.add(key);
      const { definer, page, isRace } = late;
      const about = {
        about: `${use.name} ${part.key}`,
        subjects: [subject(part)],
        evidence: [evidence(part, use.range, 'uses')],
      };
      const params = {
        part: partName(part),
        name: use.name,
        page,
        file: nameOf(definer),
        ready: definer.when,
      };
      if (isRace) yield { ...about, message: 'race', params, severity: 'warning' };
      else if (!comesIn(set, part, use, definer)) yield { ...about, message: 'ready-later', params };
      else
        yield {
          ...about,
          message: 'later',
          params,
          ...(part.facts.defines.length > 0
            ? {}
            : { fix: [{ kind: 'move-part', part: part.key, placement: 'body-end' }] }),
        };
    }
  },
});

interface Late {
  readonly definer: PageDefiner;
  readonly page: string;
  readonly isRace: boolean;
}

/** On the first kind of page that makes the name itself, but not in time. */
function firstLate(set: CheckedSet, part: ReadPart, use: Use): Late | undefined {
  const all = set.pageCode.definersOf(use.name);
  if (all.length === 0 || isAnchor(part.part.placement)) return undefined;
  for (const { group, page } of set.pageCode.pagesOf(part.snippet)) {
    const here = all.filter(({ thing }) => thing.compositions.has(group.composition));
    const order = here.map((definer) => set.pageCode.comesBefore(definer, part, use.when));
    const [definer] = here;
    if (!definer || order.includes('always')) continue;
    const maybe = order.indexOf('maybe');
    return { definer: maybe < 0 ? definer : here[maybe]!, page, isRace: maybe >= 0 };
  }
  return undefined;
}

/** Whether it would come in time if the part stood at the end of the body. */
function comesIn(set: CheckedSet, part: ReadPart, use: Use, definer: PageDefiner): boolean {
  const moved = { ...part, part: { ...part.part, placement: 'body-end' as const } };
  return set.pageCode.comesBefore(definer, moved, use.when) === 'always';
}

/** The file that makes it, or the name of what does. */
function nameOf({ file, thing }: PageDefiner): string {
  return file ?? thing.sighting.name;
}
