export * from './pages/index.js';
export * from './hours/index.js';
export { ReachAlgebra, type Dimension } from './algebra.js';
export {
  consentCookie,
  consentNames,
  consentPathProblem,
  grantedConsent,
  type ConsentRules,
} from './consent.js';
export {
  DEVICES,
  DEVICE_HEADERS,
  DEVICE_HINT,
  deviceName,
  deviceOf,
  devicesWords,
  type Device,
  type DeviceHeaders,
} from './device.js';
export type { PageLoad } from './page-load.js';
export {
  ENVIRONMENT_NAMES,
  limitsWords,
  reachWords,
  normalizeLimits,
  type EnvironmentName,
  type Limits,
  type Reach,
  type SiteReach,
} from './reach.js';
export { isLimited, visitorWords, waitWords, type VisitorRules } from './visitor.js';
export { whyOutOfReach, type OutOfReach } from './why-not.js';
export { witnessWords } from './witness.js';
