import type { IncomingMessage } from 'node:http';
import proxyAddress from 'proxy-addr';

/** Whom a request comes from, as far as the proxies before the gateway are believed. */
export interface ClientFacts {
  /** IP address. */
  readonly address: string;
  readonly protocol: 'http' | 'https';
  /** What the last proxy says came before is believed, and passed on. */
  readonly isForwarded: boolean;
}

/** Reads a request's client. */
export type ClientReader = (request: IncomingMessage) => ClientFacts;

/**
 * After Express's `trust proxy`: how many proxies there are, or their addresses. Forwarding headers of whoever is not
 * trusted count for nothing.
 */
export function clientReader(trusted: number | readonly string[]): ClientReader {
  const trust =
    typeof trusted === 'number'
      ? (_address: string, hop: number) => hop < trusted
      : proxyAddress.compile([...trusted]);
  return (request) => {
    const peer = request.socket.remoteAddress ?? '';
    // Nobody is trusted with most requests; then there is nothing to read.
    if (peer === '' || !trust(peer, 0)) return { address: peer, protocol: 'http', isForwarded: false };
    const said = request.headers['x-forwarded-proto'];
    const [protocol] = (Array.isArray(said) ? said[0]! : (said ?? '')).split(',', 1);
    return {
      address: proxyAddress(request, trust),
      protocol: protocol!.trim().toLowerCase() === 'https' ? 'https' : 'http',
      isForwarded: true,
    };
  };
}
