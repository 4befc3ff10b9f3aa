import type { Handlers } from '../http/context.js';
import type { Visiting } from '../pages/page-skeletons.js';
import type { Settings } from '../settings.js';
import { SeenDrafts } from '../site/seen-drafts.js';
import { SiteChecks } from '../site/site-checks.js';
import { checklistHandlers } from './checklist.js';
import { fieldHandlers } from './fields.js';
import { findingHandlers } from './findings.js';
import { planHandlers } from './plan.js';
import { orderHandlers } from './order.js';
import { recipeHandlers } from './recipes.js';
import { releaseHandlers } from './releases.js';
import { sessionHandlers } from './session.js';
import { siteHandlers } from './sites.js';
import { snippetHandlers } from './snippets.js';
import { verificationHandlers } from './verification.js';

/** All handlers; the type says that none is missing. */
export function createHandlers(settings: Settings, visiting: Visiting): Handlers {
  const checks = new SiteChecks(visiting);
  const seenDrafts = new SeenDrafts();
  return {
    ...sessionHandlers(settings),
    ...siteHandlers(settings, checks),
    ...snippetHandlers(seenDrafts),
    ...orderHandlers(checks),
    ...releaseHandlers(checks, seenDrafts),
    ...planHandlers(),
    ...fieldHandlers(),
    ...recipeHandlers(checks),
    ...checklistHandlers(checks),
    ...verificationHandlers(visiting),
    ...findingHandlers(checks),
  };
}
