export { baggageOf, type Baggage } from './copy.js';
export { difference, type Change, type ChangeKind } from './difference.js';
export { tellingLine } from './telling-line.js';
