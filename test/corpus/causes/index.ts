import type { CauseKind } from './cause.js';
import { BLOCKED_BY_PAGE } from './blocked-by-page.js';
import { CHANGES_FOR_ALL } from './changes-for-all.js';
import { CORNERS } from './corners.js';
import { HALF_INSTALLS } from './half-installs.js';
import { LEFT_OVER } from './left-over.js';
import { NEEDS_BY_NAME } from './needs-by-name.js';
import { PASTED_WRONG } from './pasted-wrong.js';
import { PLACES_BY_KIND } from './places-by-kind.js';
import { REACH_OF_NOTHING } from './reach-of-nothing.js';
import { SAME_ACCOUNTS } from './same-accounts.js';
import { SECRETS } from './secrets.js';
import { STANDS_ALREADY } from './stands-already.js';
import { THROWN_AWAY } from './thrown-away.js';

export { findingsOfSite, siteOf } from './site.js';
export { type Cause, type CauseKind, type CauseSite, type CleanSite } from './cause.js';

/** One more kind is one more file and one line here. */
export const CAUSE_KINDS: readonly CauseKind[] = [
  NEEDS_BY_NAME,
  HALF_INSTALLS,
  SAME_ACCOUNTS,
  THROWN_AWAY,
  LEFT_OVER,
  SECRETS,
  PASTED_WRONG,
  REACH_OF_NOTHING,
  CHANGES_FOR_ALL,
  CORNERS,
  BLOCKED_BY_PAGE,
  STANDS_ALREADY,
  PLACES_BY_KIND,
];
