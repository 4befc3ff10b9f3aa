import type { Server } from 'node:net';
import { pino, type Logger } from 'pino';

/** The log of a process: JSON, one event a line, and no secret. */
export function createLog(level: string): Logger {
  return pino({
    level,
    redact: {
      paths: [
        'req.headers.authorization',
        'req.headers.cookie',
        'res.headers["set-cookie"]',
        '*.password',
        '*.newPassword',
        '*.secret',
        '*.token',
      ],
      censor: '[secret]',
    },
  });
}

/** @returns the port. @throws when it is taken */
export async function listen(server: Server, port: number, host: string): Promise<number> {
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      server.removeListener('error', reject);
      resolve();
    });
  });
  const address = server.address();
  return typeof address === 'object' && address ? address.port : port;
}

const BEAT_MS = 5_000;

/**
 * Tells whoever started this process that it is ready, and from then on that it is alive. One that hangs goes silent,
 * and is replaced. Does nothing for a process that was started alone.
 */
export function sayReady(about: object): void {
  if (!process.send) return;
  process.send({ ...about, ready: true, beats: true });
  const beat = setInterval(() => {
    if (process.connected) process.send?.({ alive: true });
    else clearInterval(beat);
  }, BEAT_MS);
  beat.unref();
}

/**
 * Runs `stop` once, when the process is told to end or whoever started it is gone, and then exits.
 *
 * @param stop - finishes what is under way
 */
export function stopWith(stop: () => Promise<void>): void {
  let isStopping = false;
  const end = (): void => {
    if (isStopping) return;
    isStopping = true;
    void stop().finally(() => process.exit(0));
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, end);
  process.on('disconnect', end);
}

/** What a start that failed says: one line for what a person can put right, everything for a bug. */
export function startProblem(error: unknown, ...forPeople: readonly (new (text: string) => Error)[]): string {
  const isTaken = error instanceof Error && 'code' in error && error.code === 'EADDRINUSE' && 'port' in error;
  if (isTaken) return `Port ${String(error.port)} is in use by another program.`;
  if (!(error instanceof Error)) return String(error);
  return forPeople.some((kind) => error instanceof kind) ? error.message : (error.stack ?? error.message);
}
