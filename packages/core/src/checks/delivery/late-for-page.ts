import { asyncLineDelivery } from '../../deliver/index.js';
import type { Definition, Use } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';
import { definers } from '../order/definitions.js';
import type { PageThing } from '../page-code.js';
import type { Way } from '../way.js';

const TALLY = '<script>window.tally = function () {};</script>';

export const lateForPage = defineCheck({
  id: 'late-for-page',
  area: 'delivery',
  severity: 'warning',
  title: 'Comes after the page’s own script that needs it',
  why: 'The page’s own script calls something that a snippet defines. If the snippet comes later, that script stops with an error, and the rest of it never runs.',
  asks: ['survey', 'hosts'],
  messages: {
    async: {
      title: '“{name}” is used on {page} before {part} defines it',
      advice:
        'On {hosts} snippets come by {way}, which pages do not wait for. Paste the in-order form of the line there, or have the page’s script check that “{name}” exists.',
    },
    body: {
      title: '“{name}” is used on {page} before {part} defines it',
      advice:
        'On {hosts} anything in the body comes later than the page’s own scripts ({way}). Move this part to the head, or have the page’s script check that “{name}” exists.',
    },
  },
  roles: { defines: 'defined here' },
  given: 'The site gets everything by the one line in its async form; its home page calls tally() itself.',
  delivery: 'async-line',
  pages: {
    '/': '<!DOCTYPE html><html><head><title>t</title></head><body><p>x</p><script>tally("home");</script></body></html>',
    '/fares': '<!DOCTYPE html><html><head><title>t</title></head><body><p>x</p></body></html>',
  },
  isFixable: false,
  wrong: [{ name: 'Visit counter', parts: [{ placement: 'head-end', code: TALLY }] }],
  right: [{ name: 'Visit counter', include: ['/fares'], parts: [{ placement: 'head-end', code: TALLY }] }],
  *runOnWhole(set) {
    const ways = set.waysOf({}).filter(isByScript);
    if (ways.length === 0) return;
    const told = new Set<string>();
    const makers = definers(set);
    for (const { thing, use } of pageUses(set)) {
      for (const { part, definition } of makers.get(use.name) ?? []) {
        const page = part.isOn ? set.pageCode.pageWith(thing, part.snippet) : undefined;
        if (page === undefined || !isNeeded(set, thing, use, definition)) continue;
        for (const way of ways) {
          const key = `${part.key} ${use.name} ${way.delivery.key}`;
          if (told.has(key) || set.comes(part, way) !== 'late') continue;
          told.add(key);
          const { name } = use;
          yield {
            about: `${name} ${way.delivery.key}`,
            message: part.isInHead && way.delivery === asyncLineDelivery ? 'async' : 'body',
            params: { page, name, part: partName(part), hosts: way.hosts, way: way.delivery.name },
            subjects: [subject(part)],
            evidence: [evidence(part, definition.range, 'defines')],
          };
        }
      }
    }
  },
});

/** What stands in the page is never late; what a script brings may be. */
function isByScript({ delivery }: Way): boolean {
  return delivery.abilities['without-script'].fit !== 'fully';
}

/** What the pages' own scripts use at once, and would stop without. */
function* pageUses({ pageCode }: CheckedSet): Generator<{ thing: PageThing; use: Use }> {
  for (const thing of pageCode.things)
    for (const use of thing.facts.uses) if (!use.isGuarded && use.when === 'parse') yield { thing, use };
}

/** Not where the page makes the name itself as well, nor where it would be late in any case. */
function isNeeded({ pageCode }: CheckedSet, thing: PageThing, use: Use, { when }: Definition): boolean {
  const isBrought = pageCode
    .definersOf(use.name)
    .some(({ thing: maker }) => [...thing.compositions].some((one) => maker.compositions.has(one)));
  return !isBrought && when === 'parse';
}
