export { checkDelivery, type DeliveryState, type PartDelivery } from './delivered.js';
export { checkLine, type ExpectedLine, type LoadedLine } from './by-line.js';
export { checkPasted } from './by-paste.js';
export { isDeliveryFault, summarizeDelivery, type SnippetDelivery } from './summary.js';
