export { createSetUpToken, ensureAdministrator, sweepCredentials } from './auth/accounts.js';
export { VERSION, startService, type Service } from './service.js';
export { readSettings, settingsSchema, type Settings } from './settings.js';
export { migrate, openDatabase } from './storage/orm.js';
