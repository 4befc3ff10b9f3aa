import { request as requestHttp, type IncomingMessage, type Server } from 'node:http';
import { request as requestHttps } from 'node:https';
import { pipeline, type Duplex } from 'node:stream';
import { rootCertificates } from 'node:tls';
import { localhostLookup } from '@pragmatica/contract/node';
import type { HeaderMap } from './headers.js';
import type { PageRequest } from './requests.js';

/** A WebSocket handshake (RFC 6455, 4.1): a GET without a body. Everything else is a request like others. */
export function isWebSocket({ method, headers }: IncomingMessage): boolean {
  return (
    method === 'GET' &&
    headers.upgrade?.trim().toLowerCase() === 'websocket' &&
    headers['content-length'] === undefined &&
    headers['transfer-encoding'] === undefined
  );
}

/**
 * Gives a request back to the server as if nobody had asked for an upgrade, which a server may ignore (RFC 9110, 7.8).
 * Node.js has taken the connection away from its parser by then: the head is written anew, without what asks for it, and
 * read again with all that follows.
 */
export function ignoreUpgrade(server: Server, request: IncomingMessage, socket: Duplex, head: Buffer): void {
  const lines = [`${request.method!} ${request.url!} HTTP/${request.httpVersion}`];
  for (let i = 0; i < request.rawHeaders.length; i += 2) {
    const name = request.rawHeaders[i]!;
    let value = request.rawHeaders[i + 1]!;
    if (/^(?:upgrade|http2-settings)$/i.test(name)) continue;
    if (/^connection$/i.test(name))
      value = value
        .split(',')
        .filter((token) => !/^\s*(?:upgrade|http2-settings)\s*$/i.test(token))
        .join(',');
    if (value.trim() !== '' || !/^connection$/i.test(name)) lines.push(`${name}: ${value}`);
  }
  socket.unshift(Buffer.concat([Buffer.from(`${lines.join('\r\n')}\r\n\r\n`, 'latin1'), head]));
  server.emit('connection', socket);
}

export interface UpgradeOptions {
  readonly headers: HeaderMap;
  /** Certificates to trust besides the usual ones, for origins with https. */
  readonly ca?: string | undefined;
  readonly timeoutMs: number;
}

/**
 * Passes a WebSocket handshake to the origin, on a connection of its own that nobody used before and nobody uses after.
 * Once it agrees, bytes go both ways untouched.
 *
 * @param onFailure - the origin did not answer
 */
export function passUpgrade(
  origin: string,
  pageRequest: PageRequest,
  request: IncomingMessage,
  socket: Duplex,
  head: Buffer,
  { headers, ca, timeoutMs }: UpgradeOptions,
  onFailure: (error: Error) => void,
): void {
  const url = new URL(origin);
  const send = url.protocol === 'https:' ? requestHttps : requestHttp;
  const outgoing = send({
    agent: false,
    host: url.hostname.replace(/^\[|\]$/g, ''),
    port: url.port,
    method: 'GET',
    path: pageRequest.target,
    headers: { ...headers, connection: 'Upgrade', upgrade: request.headers.upgrade },
    lookup: localhostLookup,
    servername: url.hostname,
    ...(ca === undefined ? {} : { ca: [...rootCertificates, ca] }),
  });
  const late = setTimeout(() => outgoing.destroy(new Error('no answer to the handshake')), timeoutMs);
  for (const event of ['upgrade', 'response', 'error'] as const)
    outgoing.once(event, () => clearTimeout(late));
  outgoing.on('upgrade', (answer, upstream, upstreamHead) => {
    socket.write(headOf(answer));
    if (upstreamHead.length > 0) socket.write(upstreamHead);
    if (head.length > 0) upstream.write(head);
    const done = (): void => {
      socket.destroy();
      upstream.destroy();
    };
    pipeline(socket, upstream, done);
    pipeline(upstream, socket, done);
  });
  // The origin may say no; its answer is passed on, and the connection closed behind it.
  outgoing.on('response', (answer) => {
    socket.write(headOf(answer, true));
    pipeline(answer, socket, () => socket.destroy());
  });
  outgoing.on('error', onFailure);
  socket.on('error', () => outgoing.destroy());
  socket.on('close', () => outgoing.destroy());
  outgoing.end();
}

function headOf(answer: IncomingMessage, closes = false): string {
  const lines = [`HTTP/1.1 ${answer.statusCode!} ${answer.statusMessage ?? ''}`];
  for (let i = 0; i < answer.rawHeaders.length; i += 2) {
    const name = answer.rawHeaders[i]!;
    // The body that follows is no longer in chunks.
    if (closes && /^(transfer-encoding|connection|keep-alive)$/i.test(name)) continue;
    lines.push(`${name}: ${answer.rawHeaders[i + 1]!}`);
  }
  if (closes) lines.push('Connection: close');
  return `${lines.join('\r\n')}\r\n\r\n`;
}
