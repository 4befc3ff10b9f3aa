import { hoursWords, pageRulesWords, type Dimension } from '../../reach/index.js';
import { reachOf, type SnapshotSnippet } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import type { Check } from '../check.js';

const CODE = '<meta name="a" content="b">';

export const reachEmpty: Check = {
  id: 'reach-empty',
  area: 'activation',
  severity: 'warning',
  title: 'A snippet that never runs',
  why: 'It is switched on and looks active, but its reach holds no page load at all: no page, no hour, or no device.',
  isFixable: false,
  wrong: [
    {
      name: 'Pixel',
      include: ['/booking/*'],
      exclude: ['/*'],
      parts: [{ placement: 'head-end', code: CODE }],
    },
  ],
  right: [
    {
      name: 'Pixel',
      include: ['/booking', '/booking/*'],
      exclude: ['/booking/old'],
      parts: [{ placement: 'head-end', code: CODE }],
    },
  ],
  *run(set) {
    for (const snippet of set.snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      const dimension = set.reaches.emptyFor(reachOf(snippet));
      if (dimension === undefined) continue;
      yield {
        about: dimension,
        title: `“${snippet.name}” ${titleOf(dimension, snippet)}`,
        advice: adviceOf(dimension, snippet, set),
        subjects: [{ snippet: snippet.key, name: snippet.name }],
        evidence: [],
      };
    }
  },
};

function titleOf(dimension: Dimension, { limits }: SnapshotSnippet): string {
  if (dimension === 'hours') return limits?.hours?.last === undefined ? 'never opens' : 'is over';
  if (dimension === 'device') return 'is for no device';
  if (dimension === 'window') return 'fits into no window';
  return 'runs on no page';
}

function adviceOf(dimension: Dimension, { pages, limits }: SnapshotSnippet, set: CheckedSet): string {
  if (dimension === 'hours')
    return `Its hours say: ${hoursWords(limits!.hours!)}. From now on that is never. Change them, or switch it off.`;
  if (dimension === 'window') return 'Its least width is greater than its greatest. Change one of the two.';
  const rules = `Its rules say: ${pageRulesWords(pages, set.snapshot.site.pageGroups)}.`;
  if (dimension === 'environment')
    return `${rules} None of the site’s ${limits!.environment!} hosts has such a page. Change its pages or its environment.`;
  return `${rules} Take the page out of those that are left out.`;
}
