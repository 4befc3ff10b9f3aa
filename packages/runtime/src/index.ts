export { databaseName, endConnection } from './database.js';
export { sendOwnPage, type OwnPage } from './own-page.js';
export { createLog, listen, sayReady, startProblem, stopWith } from './process.js';
export { SettingsError, flag, port, readSettingsOf, sharedSettings } from './settings.js';
