export { MAX_CONTROLS } from './evidence.js';
export type {
  NumberedBox,
  Rectangle,
  ConsentAnswer,
  ConsoleMessage,
  CoveredControl,
  Frame,
  Initiator,
  LayoutShift,
  LoadEvidence,
  LongTask,
  RequestFailure,
  RequestKind,
  SeenControl,
  SeenElement,
  SeenTag,
  SeenException,
  SeenRequest,
  SeenScript,
  SeenViolation,
  SeenWrite,
  Stack,
  StepOutcome,
  VisitEvidence,
  VisitFailure,
} from './evidence.js';
export { DEVICE_WINDOWS, type VisitScript, type VisitStep } from './script.js';
export {
  THIRD_PARTIES,
  answerTo,
  isReport,
  isWrite,
  type HostAnswer,
  type OutgoingRequest,
  type ThirdParties,
  type ThirdPartyRules,
} from './third-parties.js';
export { neededVisits, stepsFor, type NeededVisit, type VisitChoice } from './needed-visits.js';
export { weighingVisits, type WeighingVisit } from './weighing-visits.js';
export { probesOf } from './probes.js';
export { samplePages, sampledWords, type KnownPage, type SampledPage } from './sample-pages.js';
export { toHar, type Har } from './har.js';
export { stepWords } from './step-words.js';
