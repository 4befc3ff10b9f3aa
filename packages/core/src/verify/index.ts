export { checkDelivery, type DeliveryState, type PartDelivery } from './delivered.js';
export { isDeliveryFault, summarizeDelivery, type SnippetDelivery } from './summary.js';
