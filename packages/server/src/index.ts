export { createSetUpToken, ensureAdministrator } from './auth/accounts.js';
export { createGateway, type GatewayOptions } from './gateway/gateway.js';
export type { InserterFactory } from './gateway/page-stream.js';
export { createMetrics } from './metrics.js';
export { VERSION, startService, type Service } from './service.js';
export { SettingsError, readSettings, settingsSchema, type Settings } from './settings.js';
export { migrate, openDatabase } from './storage/orm.js';
