import type { SnippetState } from '../../snapshot/index.js';

/**
 * Why something that must come first is not there.
 *
 * @param page - a page load on which it does not run, in words
 */
export function whyMissing(state: SnippetState, page: string | undefined): string | undefined {
  if (state === 'off') return 'is switched off';
  if (state === 'archived') return 'is archived';
  return page === undefined ? undefined : `does not run on ${page}`;
}
