import { SettingsError, readSettings } from './settings.js';
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
  let isStopping = false;
  const stop = (): void => {
    if (isStopping) return;
    isStopping = true;
    void service.close().then(() => process.exit(0));
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, stop);
  process.on('disconnect', stop);
  const { address, gatewayPort, firstSignIn } = service;
  process.send?.({ ready: true, address, gatewayPort, firstSignIn });
}

main().catch((error: unknown) => {
  const isTaken = error instanceof Error && 'code' in error && error.code === 'EADDRINUSE' && 'port' in error;
  const message = isTaken
    ? `Port ${String(error.port)} is in use by another program.`
    : error instanceof SettingsError || error instanceof DatabaseError
      ? error.message
      : undefined;
  if (message === undefined) console.error(error);
  else console.error(message);
  process.exit(1);
});
