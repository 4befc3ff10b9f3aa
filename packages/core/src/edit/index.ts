export { changeSite, type SiteChange } from './change-site.js';
export { applyChanges, snippetsOf } from './apply-changes.js';
export { importedSet, type ImportOptions } from './import-set.js';
export type { SetChange } from './set-change.js';
export { ranksFor, withSnippet, type UnrankedSnippet } from './with-snippet.js';
