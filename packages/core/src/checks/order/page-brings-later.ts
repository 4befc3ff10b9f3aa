import { partName } from '../../snapshot/index.js';
import type { Use } from '../../facts/index.js';
import type { CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { byName } from '../ties/by-name.js';
import { defineCheck } from '../check.js';
import { makerName, type PageDefiner } from '../page-code.js';
import { pageNeeds } from '../page-needs.js';
import type { ReadPart } from '../read-part.js';
import { toBodyEnd } from '../to-body-end.js';

const CALENDAR = "<script>Tidebook.open('#calendar');</script>";
const page = (head: string): string =>
  `<!DOCTYPE html><html><head><title>Fares</title>${head}</head><body><p id="calendar">Fares</p></body></html>`;

export const pageBringsLater = defineCheck({
  id: 'page-brings-later',
  area: 'order',
  severity: 'warning',
  title: 'Code needs something that the page itself defines later',
  why: 'The site loads a library or defines a function itself, but further down. Code that calls it earlier stops with an error, and visitors see nothing.',
  asks: ['survey'],
  messages: {
    later: {
      title: '{part} needs “{name}”, which {page} defines further down',
      advice: '“{name}” comes from {file}, which is below. Move {part} to the end of the body.',
      fix: 'Move it to the end of the body.',
    },
    'ready-later': {
      title: '{part} needs “{name}”, which {page} does not have until later',
      advice:
        '{file} defines it {ready, select, deferred {once the whole page has been read} async {whenever it arrives} other {on an event or after a delay}}. Have {part} wait for it.',
    },
    race: {
      title: '{part} may run before “{name}” exists on {page}',
      advice:
        '{file} defines it {ready, select, deferred {once the whole page has been read} async {whenever it arrives} other {on an event or after a delay}}. Have {part} wait for it.',
    },
  },
  roles: { uses: 'needs “{name}”' },
  isFixable: true,
  wrong: [{ name: 'Calendar', parts: [{ placement: 'head-start', code: CALENDAR }] }],
  right: [{ name: 'Calendar', parts: [{ placement: 'body-end', code: CALENDAR }] }],
  pages: { '/fares': page('<script>var Tidebook = { open: function () {} };</script>') },
  ties: [byName],
  *run(set) {
    for (const { part, use, definer, page, verdict } of pageNeeds(set)) {
      if (verdict === 'fine') continue;
      const about = {
        about: `${use.name} ${part.key}`,
        subjects: [subject(part)],
        evidence: [evidence(part, use.range, 'uses')],
      };
      const params = {
        part: partName(part),
        name: use.name,
        page,
        file: makerName(definer),
        ready: definer.when,
      };
      if (verdict === 'race') yield { ...about, message: 'race', params };
      else if (!comesIn(set, part, use, definer)) yield { ...about, message: 'ready-later', params };
      else
        yield {
          ...about,
          message: 'later',
          params,
          ...toBodyEnd(part),
        };
    }
  },
});

/** Whether it would come in time if the part stood at the end of the body. */
function comesIn(set: CheckedSet, part: ReadPart, use: Use, definer: PageDefiner): boolean {
  const moved = { ...part, part: { ...part.part, placement: 'body-end' as const } };
  return set.pageCode.comesBefore(definer, moved, use.when) === 'always';
}
