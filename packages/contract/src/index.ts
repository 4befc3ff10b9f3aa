export { confirmingClient, type ConfirmingClient } from './confirming.js';
export { listAllFields, listAllRecipes, listAllReleases, listAllSites } from './all-pages.js';
export {
  API_BASE,
  ApiError,
  UnreachableError,
  createClient,
  type Answer,
  type ApiClient,
  type ClientOptions,
  type StreamEvent,
  type Upload,
} from './client.js';
export type {
  Endpoint,
  EndpointCall,
  EndpointRequest,
  EndpointResponse,
  EndpointResult,
  Method,
} from './endpoint.js';
export { endpoints, type EndpointName, type Endpoints } from './endpoints/index.js';
export { fieldErrors, nearest, toPointer, type FieldError } from './field-errors.js';
export { textProblem } from './text-problem.js';
export { openApiDocument } from './openapi.js';
export {
  CONTENT_VIEW,
  HOST_VIEW,
  POLICY_MODES,
  RELEASE_CHANNEL,
  RELEASE_VIEW,
  REPORT_FUNCTION,
  type PolicyMode,
  type SentPolicy,
} from './release-feed.js';
export * from './schemas/index.js';
export * from './limits.js';
