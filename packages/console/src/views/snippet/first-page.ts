import type { PageRules } from '@pragmatica/core';

/** A page on which a snippet can be seen: the first that is named without a pattern, or the front page. */
export function firstPage(pages: PageRules): string {
  return pages.include.find((pattern) => /^\/(?!\/)[\w\-./]*$/.test(pattern)) ?? '/';
}
