export { withParts } from './fetch.js';
export { ReleaseFollower, type FollowOptions, type FollowedRelease } from './follow.js';
export { insertParts, type NodeMiddleware } from './node.js';
export type { InsertSettings } from './answer.js';
export type { Releases } from './page-load.js';
