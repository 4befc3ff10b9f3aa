import { isIP, type LookupFunction } from 'node:net';
import { connect } from 'node:tls';

/**
 * When the certificate that a server shows ends, whether or not it is a good one; null where none is shown.
 *
 * @param lookup - what may be connected to
 */
export async function certificateUntil(
  host: string,
  port: number,
  { lookup, signal }: { readonly lookup: unknown; readonly signal: AbortSignal },
): Promise<Date | null> {
  if (signal.aborted) return null;
  return new Promise((resolve) => {
    const socket = connect({
      ...{ host, port },
      // An address has no name to ask for (RFC 6066, 3).
      ...(isIP(host) === 0 ? { servername: host } : {}),
      // It is looked at, nothing is sent.
      rejectUnauthorized: false,
      lookup: lookup as LookupFunction,
    });
    const done = (until: Date | null): void => {
      signal.removeEventListener('abort', giveUp);
      socket.destroy();
      resolve(until);
    };
    const giveUp = (): void => done(null);
    signal.addEventListener('abort', giveUp, { once: true });
    socket.once('error', giveUp);
    socket.once('secureConnect', () => {
      const { valid_to: until } = socket.getPeerCertificate();
      const at = new Date(until);
      done(Number.isNaN(at.getTime()) ? null : at);
    });
  });
}
