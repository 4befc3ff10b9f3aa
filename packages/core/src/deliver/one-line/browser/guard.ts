import type { LineLive, LineRelease } from '../types.js';
import { rulesHeld } from './reach.js';

declare global {
  interface Document {
    pgmIf?: (release: LineRelease, live: LineLive) => void;
  }
}

/**
 * Writes parts of a pasted block where it stands, those that are in reach now: it stands in the page while that is being
 * parsed. Nothing here is called in this package: `npm run build:one-line` makes `scripts.ts` of it.
 */
export const writeHeld = (release: LineRelease, live: LineLive): void => {
  if (/[?&]pragmatica=off(?:&|$)/.test(location.search)) return;
  const isHeld = rulesHeld(release, live, Date.now());
  const html = release[0].map(([, rule, code]) => (isHeld(rule) ? code : '')).join('');
  if (document.readyState === 'loading') document.write(html);
  // A site builder may put its boxes in late, when writing would wipe the page.
  else document.currentScript?.before(document.createRange().createContextualFragment(html));
};
