import type { IncomingMessage } from 'node:http';
import { ANSWERS } from '../texts/answers.js';
import type { OwnWords } from './answer.js';

/** Why the gateway answers a request itself. */
export interface Refusal {
  readonly status: number;
  readonly reason: string;
  readonly words: OwnWords;
  /** What the words fill in. */
  readonly names: Readonly<Record<string, string>>;
}

/** A request as far as it matters: what is asked of which host. */
export interface PageRequest {
  readonly host: string;
  /** The host with its port, as the client wrote it. */
  readonly authority: string;
  /** Path and query. */
  readonly target: string;
}

/**
 * Reads host and target of a request (RFC 9112, 3.2). What cannot be understood in one way only is refused: two servers
 * that read it differently are how requests are smuggled.
 */
export function readRequest(request: IncomingMessage): PageRequest | Refusal {
  let hosts = 0;
  for (let i = 0; i < request.rawHeaders.length; i += 2)
    if (request.rawHeaders[i]!.length === 4 && request.rawHeaders[i]!.toLowerCase() === 'host') hosts++;
  if (hosts > 1) return malformed(ANSWERS.twoHosts);
  const written = request.headers.host ?? '';
  const target = request.url!;
  if (target.startsWith('/')) return { authority: written, host: hostName(written), target };
  if (target === '*') return { authority: written, host: hostName(written), target };
  // In absolute form the host of the target counts, not the header's (RFC 9112, 3.2.2).
  if (!/^https?:/i.test(target) || !URL.canParse(target)) return malformed(ANSWERS.noAddress);
  const { host, pathname, search } = new URL(target);
  return { authority: host, host: hostName(host), target: pathname + search };
}

export function isRefusal(pageRequest: PageRequest | Refusal): pageRequest is Refusal {
  return 'status' in pageRequest;
}

function malformed(what: string): Refusal {
  return {
    status: 400,
    reason: 'malformed',
    words: ANSWERS.malformed,
    names: { what },
  };
}

/** The host without port, lower case. */
function hostName(host: string): string {
  return host.replace(/:\d*$/, '').replace(/\.$/, '').toLowerCase();
}

export function hasBody(request: IncomingMessage): boolean {
  return (
    request.headers['content-length'] !== undefined || request.headers['transfer-encoding'] !== undefined
  );
}
