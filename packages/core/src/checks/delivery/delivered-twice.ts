import { isLineAddress, lineName } from '../../deliver/index.js';
import { wholeAddress } from '../../survey/index.js';
import type { CheckedSet } from '../checked-set.js';
import { defineCheck } from '../check.js';
import type { PageThing } from '../page-code.js';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
const page = (head: string): string =>
  `<!DOCTYPE html><html><head><title>t</title>${head}</head><body><p>x</p></body></html>`;

export const deliveredTwice = defineCheck({
  id: 'delivered-twice',
  area: 'delivery',
  severity: 'warning',
  title: 'Pages get everything twice',
  why: 'Code delivered in two ways runs twice: visits count double, chats open twice, and you pay for adverts that nobody saw.',
  asks: ['survey'],
  messages: {
    line: {
      title: 'Everything runs twice on {page}: through {way}, and through the one line pasted there',
      advice:
        'Remove the line from the site’s own pages ({pages, plural, one {it is on one page} other {it is on #}}), or choose the one line as the way of {hosts} under Delivery.',
    },
  },
  given: 'The site gets everything by the gateway, and somebody has pasted the one line as well.',
  delivery: 'gateway',
  pages: {
    '/': page(''),
    '/fares': page('<script src="https://lines.example/one/example.js"></script>'),
  },
  isFixable: false,
  wrong: [{ name: 'Visit counter', parts: [{ placement: 'head-end', code: COUNTER }] }],
  right: [{ name: 'Visit counter', include: ['/'], parts: [{ placement: 'head-end', code: COUNTER }] }],
  *runOnWhole(set) {
    const way = set.waysOf({}).find(({ delivery }) => !delivery.isLine);
    // A site without the gateway has the line's pages on another host.
    if (!way) return;
    for (const thing of linesIn(set)) {
      const doubled = set.running.flatMap(({ snippet }) => {
        const page = set.pageCode.pageWith(thing, snippet);
        return page === undefined ? [] : [{ snippet, page }];
      });
      const [first] = doubled;
      if (!first) continue;
      const { pages } = thing.sighting.seen.others;
      yield {
        about: way.delivery.key,
        message: 'line',
        params: { page: first.page, way: way.delivery.name, pages, hosts: way.hosts },
        subjects: [...new Set(doubled.map(({ snippet }) => snippet))].map(({ key, name }) => ({
          snippet: key,
          name,
        })),
        evidence: [],
      };
      return;
    }
  },
});

/** Of an address only the path tells. */
const ANY_BASE = 'http://localhost';

/** Scripts of the pages' own that are the line of this site. */
function linesIn({ pageCode, snapshot }: CheckedSet): PageThing[] {
  const name = lineName(snapshot.site.key, 'live');
  return pageCode.things.filter(({ facts }) =>
    facts.loads.some(({ address }) => isLineAddress(wholeAddress(address, ANY_BASE) ?? '', name)),
  );
}
