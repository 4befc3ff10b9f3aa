import { memoizeByText } from '../../memoize/by-text.js';
import { ContentPolicy } from '../../policy/index.js';
import type { CheckedSet } from '../checked-set.js';
import { defineCheck } from '../check.js';
import type { KnownPolicies } from '../knowledge.js';
import type { Way } from '../way.js';

const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';

export const lineBlocked = defineCheck({
  id: 'line-blocked',
  area: 'delivery',
  severity: 'warning',
  title: 'The page’s content policy blocks the one line',
  why: 'The page tells browsers which scripts may run on it, and the one line is not on the list. None of your snippets reach visitors on that page.',
  asks: ['hosts'],
  messages: {
    host: {
      title: 'The content policy of {page} blocks the one line',
      advice:
        'Its {directive} does not list {host}{pages, plural, =1 {} other { (# pages in all)}}. Add {host} to {directive} where the site sets its policy, and what your snippets load.',
    },
    nonce: {
      title: 'On {page} the one line needs the page’s nonce',
      advice:
        'The {directive} of this page allows only scripts with a one-time mark that the site’s own server sets{pages, plural, =1 {} other { (# pages in all)}}. Add the nonce to the pasted line as on the page’s other scripts; the line passes it on to your snippets. If it already has one, accept this finding.',
    },
  },
  given: 'The site gets everything by the one line; its fares page has a policy, its home page none.',
  delivery: 'line',
  pages: {
    '/': '<!DOCTYPE html><html><head><title>t</title></head><body><p>x</p></body></html>',
    '/fares':
      '<!DOCTYPE html><html><head><meta http-equiv="Content-Security-Policy" content="script-src https://tallymast.example"><title>t</title></head><body><p>x</p></body></html>',
  },
  isFixable: false,
  wrong: [{ name: 'Visit counter', parts: [{ placement: 'head-end', code: COUNTER }] }],
  right: [{ name: 'Visit counter', include: ['/'], parts: [{ placement: 'head-end', code: COUNTER }] }],
  *runOnWhole(set) {
    const { lineAddress } = set;
    if (!lineAddress) return;
    for (const known of set.policies) {
      const lines = linesOn(set, known);
      const paths =
        lines.length === 0
          ? []
          : known.paths.filter((path) => set.running.some(({ snippet }) => set.runsOn(snippet, path)));
      const [page] = paths;
      if (page === undefined) continue;
      const verdict = known.policies
        .filter(({ isReportOnly }) => !isReportOnly)
        .map(({ value }) => policyOf(value).verdict('script', lineAddress, known.address + page))
        .find(({ kind }) => kind !== 'allowed');
      if (!verdict || verdict.kind === 'allowed') continue;
      const { directive } = verdict;
      const snippets = set.running
        .filter(({ snippet }) => set.runsOn(snippet, page))
        .map(({ snippet }) => snippet);
      const about = {
        about: `${page} ${directive}`,
        subjects: [...new Set(snippets)].map(({ key, name }) => ({ snippet: key, name })),
        evidence: [],
      };
      const params = { page, directive, pages: paths.length };
      if (verdict.kind === 'needs-nonce') yield { ...about, message: 'nonce', params };
      else yield { ...about, message: 'host', params: { ...params, host: new URL(lineAddress).host } };
    }
  },
});

const policyOf = memoizeByText(500, (serialized) => new ContentPolicy(serialized));

/** The ways by a line to the host that pages with a policy are of. */
function linesOn(set: CheckedSet, { address }: KnownPolicies): Way[] {
  const { hostname } = new URL(address);
  const ways = set.waysOf({});
  const isNamed = ways.some(({ hosts }) => hosts.includes(hostname));
  return ways.filter(({ delivery, hosts }) => delivery.isLine && (!isNamed || hosts.includes(hostname)));
}
