export { WAITING_SCRIPT } from './script.js';
export { waitingCode } from './waiting-code.js';
