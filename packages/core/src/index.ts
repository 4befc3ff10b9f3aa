export * from './contain/index.js';
export * from './insert/index.js';
export * from './order/index.js';
export * from './plan/index.js';
export * from './reach/index.js';
export * from './release/index.js';
export * from './verify/index.js';
export * from './facts/index.js';
