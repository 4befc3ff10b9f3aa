export { baggageOf } from './copy.js';
export { difference, type Change } from './difference.js';
export { summaryLine } from './summary-line.js';
