import type { Server } from 'node:http';
import { pino, type Logger } from 'pino';
import type { Settings } from './settings.js';

/** The log of a process: JSON, one event a line, and no secret. */
export function createLog(settings: Settings): Logger {
  return pino({
    level: settings.PRAGMATICA_LOG_LEVEL,
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
    server.listen(port, host, resolve);
  });
  const address = server.address();
  return typeof address === 'object' && address ? address.port : port;
}
