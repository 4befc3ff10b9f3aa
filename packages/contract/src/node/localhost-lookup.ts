import { lookup as systemLookup, type LookupAddress, type LookupOptions } from 'node:dns';

type Callback = (
  error: NodeJS.ErrnoException | null,
  address: string | LookupAddress[],
  family?: number,
) => void;

/** Whether a name is `localhost` or ends in `.localhost`. */
export function isLocalhost(hostname: string): boolean {
  return /(^|\.)localhost\.?$/i.test(hostname);
}

/**
 * A `lookup` for Node's and undici's clients that answers names below `.localhost` with the loopback address, as
 * RFC 6761 (6.3) asks of resolvers. Browsers do this by themselves; the C library behind Node often does not.
 */
export function localhostLookup(hostname: string, options: LookupOptions, callback: Callback): void {
  if (!isLocalhost(hostname)) {
    systemLookup(hostname, options, callback as never);
    return;
  }
  if (options.all) callback(null, [{ address: '127.0.0.1', family: 4 }]);
  else callback(null, '127.0.0.1', 4);
}
