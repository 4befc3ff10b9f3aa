import { isBroughtByLoader } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { byName } from '../ties/by-name.js';
import { byUnread } from '../ties/by-unread.js';
import { defineCheck } from '../check.js';
import { Makers, openUses } from './definitions.js';

const CALENDAR = "<script>Tidebook.open('#calendar');</script>";
const page = (head: string): string =>
  `<!DOCTYPE html><html><head><title>Fares</title>${head}</head><body><p id="calendar">Fares</p></body></html>`;

export const nothingBrings = defineCheck({
  id: 'nothing-brings',
  area: 'order',
  severity: 'warning',
  title: 'Code needs something that nothing defines',
  why: 'When a theme stops loading a library, code that calls it is left behind. That code stops with an error, and visitors see nothing.',
  asks: ['survey'],
  messages: {
    nothing: {
      title: '{part} needs “{name}”, which nothing defines',
      advice:
        'No snippet defines it, and {pages, plural, one {neither does the page {page}} other {none of its # pages does, such as {page}}}. Add whatever the provider wants loaded first, or switch {part} off.',
    },
    some: {
      title: '{part} needs “{name}”, which is missing on some of its pages',
      advice:
        'On {page}, for example, no snippet defines it and neither does the page{pages, plural, one {} other { (# pages in all)}}. Add whatever the provider wants loaded first, or exclude these pages.',
    },
  },
  roles: { uses: 'needs “{name}”' },
  isFixable: false,
  wrong: [{ name: 'Calendar', parts: [{ placement: 'body-end', code: CALENDAR }] }],
  right: [
    { name: 'Calendar', parts: [{ placement: 'body-end', code: CALENDAR }], include: ['/tides'] },
    {
      name: 'Careful calendar',
      parts: [
        { placement: 'body-end', code: `<script>if (window.Tidebook) Tidebook.open('#calendar');</script>` },
      ],
    },
  ],
  pages: {
    '/fares': page(''),
    '/tides': page('<script>var Tidebook = { open: function () {} };</script>'),
  },
  ties: [byName, byUnread],
  *run(set) {
    if (!set.pageCode.isKnown) return;
    const made = new Makers(set);
    const told = new Set<string>();
    for (const { part, use } of openUses(set)) {
      const key = `${part.key} ${use.name}`;
      if (made.of(use.name).length > 0 || told.has(key) || isBroughtByLoader(part, use)) continue;
      told.add(key);
      const reach = set.pageCode.pagesOf(part.snippet);
      const makers = set.pageCode.definersOf(use.name);
      const without = reach.filter(
        (pages) =>
          !makers.some(({ thing }) => thing.compositions.has(pages.group.composition)) &&
          !set.holdsUnread(pages, part.snippet),
      );
      const [first] = without;
      if (!first) continue;
      yield {
        about: `${use.name} ${part.key}`,
        message: without.length === reach.length ? 'nothing' : 'some',
        params: {
          part: partName(part),
          name: use.name,
          page: first.page,
          pages: without.reduce((sum, { group }) => sum + group.pages, 0),
        },
        subjects: [subject(part)],
        evidence: [evidence(part, use.range, 'uses')],
      };
    }
  },
});
