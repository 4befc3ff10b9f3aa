import { PLACE_SCRIPT, RELEASE_SCRIPT } from './scripts.js';
import type { LineRelease } from './types.js';

/**
 * The call that applies a release in a browser, with all that it needs.
 *
 * @param data - the release as it is written where the call stands
 */
export function releaseCall([parts]: LineRelease, data: string): string {
  const needsMore = parts.some(([place]) => typeof place !== 'number');
  return `${RELEASE_SCRIPT}()(${data}${needsMore ? `,${PLACE_SCRIPT}()` : ''})`;
}
