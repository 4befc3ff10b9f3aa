import './speak-first.js';
import { SettingsError, sayReady, startProblem, stopWith } from '@pragmatica/runtime';
import { readSettings } from './settings.js';
import { startService } from './service.js';
import { DatabaseError } from './storage/orm.js';

/**
 * The service as a process. Started by `npm start` with a channel to it: it says `ready` there with what it knows, and
 * stops when the channel closes, so that it never outlives who started it.
 */
async function main(): Promise<void> {
  const settings = readSettings(process.env);
  if (settings.DATABASE_URL === undefined)
    throw new SettingsError('DATABASE_URL is missing. "npm start" runs a database and sets it.');
  const service = await startService(settings, settings.DATABASE_URL);
  stopWith(() => service.close());
  const { address, firstSignIn } = service;
  sayReady({ address, firstSignIn });
}

main().catch((error: unknown) => {
  console.error(startProblem(error, SettingsError, DatabaseError));
  process.exit(1);
});
