export {
  approvalState,
  approvalStateWords,
  approves,
  whyNotToDecide,
  type ApprovalRequest,
  type ApprovalState,
  type Decision,
  type NotToDecide,
} from './approval.js';
export { baggageOf } from './copy.js';
export { difference, type Change } from './difference.js';
export { summaryLine } from './summary-line.js';
