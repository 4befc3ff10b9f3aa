import type { Endpoint } from '../endpoint.js';
import { approvalEndpoints } from './approvals.js';
import { backupEndpoints } from './backups.js';
import { commentsEndpoints } from './comments.js';
import { doctorEndpoints } from './doctor.js';
import { fileEndpoints } from './files.js';
import { findingsEndpoints } from './findings.js';
import { handoverEndpoints } from './handover.js';
import { identitiesEndpoints } from './identities.js';
import { languagesEndpoints } from './languages.js';
import { liveEndpoints } from './live.js';
import { membersEndpoints } from './members.js';
import { passkeysEndpoints } from './passkeys.js';
import { pasteEndpoints } from './paste.js';
import { policyEndpoints } from './policy.js';
import { previewEndpoints } from './preview.js';
import { recipesEndpoints } from './recipes.js';
import { releasesEndpoints } from './releases.js';
import { sessionEndpoints } from './session.js';
import { setEndpoints } from './set.js';
import { sitesEndpoints } from './sites.js';
import { snippetsEndpoints } from './snippets.js';
import { surveysEndpoints } from './surveys.js';
import { trailEndpoints } from './trail.js';
import { visitsEndpoints } from './visits.js';
import { watchEndpoints } from './watch.js';

/** Every call of the API, by name. One more call is one more entry in its subject and one handler in the server. */
export const endpoints = {
  ...sessionEndpoints,
  ...languagesEndpoints,
  ...passkeysEndpoints,
  ...identitiesEndpoints,
  ...membersEndpoints,
  ...sitesEndpoints,
  ...snippetsEndpoints,
  ...setEndpoints,
  ...fileEndpoints,
  ...findingsEndpoints,
  ...commentsEndpoints,
  ...liveEndpoints,
  ...releasesEndpoints,
  ...approvalEndpoints,
  ...surveysEndpoints,
  ...trailEndpoints,
  ...backupEndpoints,
  ...doctorEndpoints,
  ...visitsEndpoints,
  ...watchEndpoints,
  ...previewEndpoints,
  ...pasteEndpoints,
  ...handoverEndpoints,
  ...policyEndpoints,
  ...recipesEndpoints,
} as const satisfies Record<string, Endpoint>;

export type Endpoints = typeof endpoints;
export type EndpointName = keyof Endpoints;
