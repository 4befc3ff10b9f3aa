import type { PolicyResource } from '@pragmatica/contract';

type Own = PolicyResource['own'];

/** The site's own policy with one more source. */
export function withSource({ directives, isStrict }: Own, directive: string, source: string): Own {
  const before = (directives[directive] ?? []).filter((one) => one !== source && one !== "'none'");
  return { isStrict, directives: { ...directives, [directive]: [...before, source] } };
}

/** The same without it; a directive of which nothing is left goes, but the one for scripts. */
export function withoutSource({ directives, isStrict }: Own, directive: string, source: string): Own {
  const left = (directives[directive] ?? []).filter((one) => one !== source);
  const others = Object.entries(directives).filter(([name]) => name !== directive);
  const isKept = left.length > 0 || directive === 'script-src';
  return { isStrict, directives: Object.fromEntries(isKept ? [...others, [directive, left]] : others) };
}
