export { createProviderServer, type Received } from './provider-server.js';
export { demoRecipes } from './recipes.js';
export { seed } from './seed.js';
export type { SeedOptions } from './seed-options.js';
export { OFFICE_HOURS, SEED_REACH, seedDraftSnippet, seedSnippets } from './seed-data.js';
export { loadPages, type DemoPage } from './site-pages.js';
export { createSiteServer } from './site-server.js';
