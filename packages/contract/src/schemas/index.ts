export * from './common.js';
export * from './finding.js';
export * from './problem.js';
export * from './release.js';
export * from './session.js';
export * from './site.js';
export * from './snippet.js';
export * from './verification.js';
