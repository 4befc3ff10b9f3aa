export {
  ContentPolicy,
  directiveOf,
  hashSource,
  type DeclaredPolicy,
  type PolicyRequest,
  type PolicyVerdict,
} from './content-policy.js';
export { embedderPolicy, type EmbedderPolicy } from './embedder.js';
export { headerPolicies, isWithoutPolicies, pagePolicies, type PagePolicies } from './page-policies.js';
export { PermissionsPolicy } from './permissions.js';
export {
  extendPolicy,
  nonceIn,
  policiesIn,
  serialize,
  withSources,
  type AllowedSource,
  type ExtendedPolicy,
} from './extend.js';
export {
  fileNeeds,
  partNeeds,
  policyNeedsOf,
  requestOfLoad,
  type FileAsks,
  type PolicyNeed,
} from './needs.js';
export {
  allowSource,
  denySource,
  isSourceAllowed,
  ownPolicyText,
  reportingEndpoints,
  withReports,
  type OwnPolicy,
  type ReportsTo,
} from './own-policy.js';
export { noncePieces, withNonce } from './with-nonce.js';
export { partsWithNonce } from './parts-with-nonce.js';
export {
  blameFor,
  readPolicyReports,
  sourceToAllow,
  type Blame,
  type PolicyReport,
  type Suspect,
} from './reports.js';
export { policyRequests, type AskedOfPolicy } from './requests.js';
