import { pageRulesWords } from '../../reach/index.js';
import type { Check } from '../types.js';

export const reachEmpty: Check = {
  id: 'reach-empty',
  area: 'activation',
  severity: 'warning',
  title: 'A snippet that runs on no page',
  why: 'It is switched on and looks active, but its page rules leave out every page that they name.',
  wrong: [
    {
      name: 'Pixel',
      include: ['/booking'],
      exclude: ['/booking'],
      parts: [{ placement: 'head-end', code: '<meta name="a" content="b">' }],
    },
  ],
  right: [
    {
      name: 'Pixel',
      include: ['/booking', '/booking/*'],
      exclude: ['/booking/old'],
      parts: [{ placement: 'head-end', code: '<meta name="a" content="b">' }],
    },
  ],
  *run(set) {
    for (const snippet of set.snapshot.snippets) {
      if (snippet.state !== 'on' || !set.pages.isEmpty(snippet.pages)) continue;
      yield {
        about: 'pages',
        title: `“${snippet.name}” runs on no page`,
        advice: `Its rules say: ${pageRulesWords(snippet.pages)}. Take the page out of those that are left out.`,
        subjects: [{ snippet: snippet.key, name: snippet.name }],
        evidence: [],
      };
    }
  },
};
