import { request as requestHttp, type IncomingMessage } from 'node:http';
import { request as requestHttps } from 'node:https';
import { pipeline, type Duplex } from 'node:stream';
import { localhostLookup } from '@pragmatica/contract/node';
import { originHeaders } from './headers.js';
import type { Asked } from './requests.js';

/**
 * Passes an upgrade (WebSocket and its like, RFC 9110, 7.8) to the origin. Once it agrees, bytes go both ways untouched.
 *
 * @param onFailure - the origin did not answer
 */
export function passUpgrade(
  origin: string,
  asked: Asked,
  request: IncomingMessage,
  socket: Duplex,
  head: Buffer,
  onFailure: (error: Error) => void,
): void {
  const url = new URL(origin);
  const headers = originHeaders(request.headers, {
    host: asked.authority,
    clientAddress: request.socket.remoteAddress ?? '',
    partsTag: '',
    mayInsert: false,
  });
  const send = url.protocol === 'https:' ? requestHttps : requestHttp;
  const outgoing = send({
    host: url.hostname,
    port: url.port,
    method: request.method,
    path: asked.target,
    headers: { ...headers, connection: 'Upgrade', upgrade: request.headers.upgrade },
    lookup: localhostLookup,
    servername: url.hostname,
  });
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
