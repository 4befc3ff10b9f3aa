export { createSetUpToken, ensureAdministrator, sweepCredentials } from './auth/accounts.js';
export { VERSION, startService, type Service } from './service.js';
export { readSettings, settingsSchema, type Settings } from './settings.js';
export { migrate, openDatabase } from './storage/orm.js';
export { ServiceError } from './errors.js';
export { PROBLEMS } from './http/problems.js';
export { FIELD_MESSAGES } from './texts/field-errors.js';
export { formatMessage } from './texts/message.js';
export { PROBLEM_MESSAGES } from './texts/problems.js';
