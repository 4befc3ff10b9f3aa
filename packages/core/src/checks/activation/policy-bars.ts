import { memoizeByText } from '../../memoize/by-text.js';
import type { Range } from '../../facts/index.js';
import { ContentPolicy, type DeclaredPolicy } from '../../policy/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import type { KnownPolicies } from '../knowledge.js';
import type { ReadPart } from '../read-part.js';

export const policyOf = memoizeByText(500, (serialized) => new ContentPolicy(serialized));

/** Whether a policy holds for a part: one in the page holds for what comes behind it (CSP Level 3, 3.3). */
export function isUnder(from: DeclaredPolicy['from'], { part }: ReadPart): boolean {
  return from !== 'meta' || part.placement !== 'head-start';
}

/** What a policy forbids whatever host it comes from. */
export function* barredByPolicy(set: CheckedSet, known: KnownPolicies) {
  for (const part of set.running) {
    const paths = known.paths.filter((path) => set.runsOn(part.snippet, path));
    const [page] = paths;
    if (page === undefined) continue;
    for (const { value, from, isReportOnly } of known.policies) {
      if (isReportOnly || !isUnder(from, part)) continue;
      const bar = barOf(policyOf(value), part, from);
      if (!bar) continue;
      yield {
        about: `${page} ${bar.message}`,
        message: bar.message,
        params: { part: partName(part), page, directive: bar.directive, pages: paths.length },
        subjects: [subject(part)],
        evidence: bar.range ? [evidence(part, bar.range, 'blocked' as const)] : [],
      };
      break;
    }
  }
}

interface Bar {
  readonly message: 'trusted-types' | 'eval' | 'sandbox';
  readonly directive: string;
  readonly range?: Range;
}

/** What of a part a policy bars altogether (CSP Level 3, 6.3.2; Trusted Types, 5.3). */
function barOf(policy: ContentPolicy, { code, facts }: ReadPart, from: 'header' | 'meta'): Bar | undefined {
  const { directives } = policy;
  const script = facts.pieces.find(({ kind }) => kind === 'script');
  // In the page itself this directive is ignored.
  const sandbox = from === 'header' ? directives.get('sandbox') : undefined;
  if (sandbox && script && !sandbox.some((token) => token.toLowerCase() === 'allow-scripts'))
    return { message: 'sandbox', directive: 'sandbox', range: script.range };
  const isTyped = directives.get('require-trusted-types-for')?.includes("'script'") === true;
  const sink = facts.sinks.find(({ kind }) => kind !== 'eval');
  if (isTyped && sink && !code.includes('trustedTypes'))
    return { message: 'trusted-types', directive: 'require-trusted-types-for', range: sink.range };
  const directive = ['script-src', 'default-src'].find((name) => directives.has(name));
  const evaluated = facts.sinks.find(({ kind }) => kind === 'eval');
  const isBarred =
    directive !== undefined && evaluated && !directives.get(directive)!.includes("'unsafe-eval'");
  return isBarred ? { message: 'eval', directive, range: evaluated.range } : undefined;
}
