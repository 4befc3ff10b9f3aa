import type { SnippetState } from '../../snapshot/index.js';

/** Why something that must come first is not there: the message that says it, and the page load on which it does not run. */
export interface Missing {
  readonly message: 'off' | 'archived' | 'other-pages';
  readonly page?: string;
}

/**
 * Why something that must come first is not there.
 *
 * @param page - a page load on which it does not run, in words
 */
export function whyMissing(state: SnippetState, page: string | undefined): Missing | undefined {
  if (state !== 'on') return { message: state };
  return page === undefined ? undefined : { message: 'other-pages', page };
}
