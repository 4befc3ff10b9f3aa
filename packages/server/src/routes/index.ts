import type { Handlers } from '../http/context.js';
import { backupsFolder, consoleAddress, type Settings } from '../settings.js';
import { BackupFolder } from '../site/copies/backup-folder.js';
import { SeenDrafts } from '../site/seen-drafts.js';
import type { Sets } from '../site/sets.js';
import type { LiveHub } from '../site/live/live-hub.js';
import type { SiteChecks } from '../site/site-checks.js';
import type { SiteSummaries } from '../site/site-summaries.js';
import type { JobQueue } from '../jobs/queue.js';
import type { SiteSurveys } from '../site/surveys/site-surveys.js';
import { createMailer } from '../outgoing/mailer.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import type { CopyStore } from '../storage/copies/copy-store.js';
import { accessHandlers } from './access.js';
import { approvalHandlers } from './approvals.js';
import { backupHandlers } from './backups.js';
import { checklistHandlers } from './checklist.js';
import { commentHandlers } from './comments.js';
import { previewOrigin } from '../preview/address.js';
import type { Doors } from '../site/doctor/doors.js';
import { doctorHandlers } from './doctor.js';
import { fieldHandlers } from './fields.js';
import { fileHandlers } from './files.js';
import { findingHandlers } from './findings.js';
import { createIdentityProvider } from '../auth/identity-provider.js';
import { identityHandlers } from './identities.js';
import { languageHandlers } from './languages.js';
import { liveHandlers } from './live.js';
import { memberHandlers } from './members.js';
import { passkeyHandlers } from './passkeys.js';
import { pasteHandlers } from './paste.js';
import { planHandlers } from './plan.js';
import { orderHandlers } from './order.js';
import { handoverHandlers } from './handover.js';
import { policyHandlers } from './policy.js';
import { previewHandlers } from './preview.js';
import { recipeHandlers } from './recipes.js';
import { releaseHandlers } from './releases.js';
import { sessionHandlers } from './session.js';
import { siteHandlers } from './sites.js';
import { snippetHandlers } from './snippets.js';
import { scheduleHandlers } from './schedules.js';
import { surveyHandlers } from './surveys.js';
import { trailHandlers } from './trail.js';
import { verificationHandlers } from './verification.js';
import { visitHandlers } from './visits.js';
import { watchHandlers } from './watch.js';

/** What handlers share. */
export interface SharedParts {
  readonly settings: Settings;
  readonly checks: SiteChecks;
  readonly sets: Sets;
  readonly summaries: SiteSummaries;
  readonly surveys: SiteSurveys;
  readonly queue: Pick<JobQueue, 'send'>;
  readonly box: SecretBox;
  readonly copies: CopyStore;
  readonly hub: LiveHub;
}

/** All handlers; the type says that none is missing. */
export function createHandlers({
  settings,
  checks,
  sets,
  summaries,
  surveys,
  queue,
  box,
  copies,
  hub,
}: SharedParts): Handlers {
  const seenDrafts = new SeenDrafts();
  const folder = new BackupFolder(backupsFolder(settings));
  const tools = { checks, sets };
  const provider = createIdentityProvider(settings, box);
  return {
    ...sessionHandlers(settings, box, provider),
    ...identityHandlers(settings, provider),
    ...passkeyHandlers(settings, box),
    ...memberHandlers(settings, provider),
    ...siteHandlers(settings, checks, summaries),
    ...snippetHandlers(sets, seenDrafts),
    ...orderHandlers(tools),
    ...releaseHandlers(tools, seenDrafts, queue, consoleAddress(settings)),
    ...planHandlers(sets),
    ...fieldHandlers(),
    ...recipeHandlers(checks),
    ...checklistHandlers(tools),
    ...approvalHandlers(tools, consoleAddress(settings)),
    ...commentHandlers(tools, {
      home: consoleAddress(settings),
      canMail: settings.PRAGMATICA_SMTP_URL !== undefined,
    }),
    ...languageHandlers(),
    ...liveHandlers(hub),
    ...backupHandlers({ copies, box }, folder),
    ...doctorHandlers({
      ...{ settings, client: checks.client, box, folder, provider },
      mailer: createMailer(settings),
      doors: doorsOf(settings),
    }),
    ...trailHandlers(sets, settings),
    ...verificationHandlers(checks, sets),
    ...findingHandlers(tools),
    ...surveyHandlers(surveys, queue),
    ...visitHandlers(sets, queue, checks),
    ...watchHandlers(settings, box),
    ...previewHandlers(settings, box),
    ...scheduleHandlers(),
    ...accessHandlers(box),
    ...pasteHandlers(checks, sets, settings),
    ...handoverHandlers(checks, sets),
    ...policyHandlers(tools, settings),
    ...fileHandlers(tools, settings),
  };
}

/** Where the installation is reached. */
function doorsOf(settings: Settings): Doors {
  const {
    PRAGMATICA_HOST: host,
    PRAGMATICA_PORT,
    PRAGMATICA_PREVIEW_PORT,
    PRAGMATICA_GATEWAY_PORT,
  } = settings;
  return {
    console: consoleAddress(settings),
    consolePort: PRAGMATICA_PORT,
    preview: previewOrigin(settings),
    previewPort: PRAGMATICA_PREVIEW_PORT,
    // What listens everywhere listens here.
    gatewayHost: host === '0.0.0.0' || host === '::' ? '127.0.0.1' : host,
    gatewayPort: PRAGMATICA_GATEWAY_PORT,
  };
}
