import './speak-first.js';
import { SettingsError, sayReady, startProblem, stopWith } from '@pragmatica/runtime';
import { readSettings } from './settings.js';
import { DatabaseError } from './storage/orm.js';
import { startWorker } from './worker.js';

/**
 * A worker as a process. Needs nothing but DATABASE_URL, so it can be started on any machine, several at once. With a
 * channel to it (as from `npm start`) it says there when it is ready, and stops when the channel closes.
 */
async function main(): Promise<void> {
  const settings = readSettings(process.env);
  if (settings.DATABASE_URL === undefined)
    throw new SettingsError('DATABASE_URL is missing: the database that the service uses.');
  const worker = await startWorker(settings, settings.DATABASE_URL);
  stopWith(() => worker.close());
  sayReady({});
}

main().catch((error: unknown) => {
  console.error(startProblem(error, SettingsError, DatabaseError));
  process.exit(1);
});
