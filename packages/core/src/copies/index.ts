export { keptCopies, type KeepRule } from './kept-copies.js';
