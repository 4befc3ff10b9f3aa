import { createServer, request, type IncomingMessage, type ServerResponse } from 'node:http';
import { connect, type AddressInfo, type LookupFunction } from 'node:net';
import type { Duplex } from 'node:stream';
import { pipeline } from 'node:stream/promises';

/** What an answer says that we refused to fetch. */
export const REFUSED_HEADER = 'x-visit-refused';

export interface GuardOptions {
  /** Resolves names; what it gives an error for is not asked. What is connected to is what was checked. */
  readonly lookup: LookupFunction;
  /** Whether a host that is written as an address may be asked, which is never looked up. */
  readonly mayAsk: (hostname: string) => boolean;
}

export interface GuardProxy {
  /** As browsers are told of it. */
  readonly address: string;
  close(): Promise<void>;
}

/**
 * A proxy on this machine through which a browser asks for everything, so that no page reaches through it what only this
 * machine's network reaches (RFC 9110, 3.7 and 9.3.6).
 */
export async function startGuardProxy({ lookup, mayAsk }: GuardOptions): Promise<GuardProxy> {
  const server = createServer((incoming, outgoing) => {
    forward(incoming, outgoing).catch(() => outgoing.destroy());
  });
  const forward = async (incoming: IncomingMessage, outgoing: ServerResponse): Promise<void> => {
    const url = URL.canParse(incoming.url ?? '') ? new URL(incoming.url!) : undefined;
    if (url?.protocol !== 'http:' || !mayAsk(url.hostname)) {
      refuse(outgoing);
      return;
    }
    const { 'proxy-connection': _, ...headers } = incoming.headers;
    const asked = request({
      lookup,
      host: url.hostname.replace(/^\[|\]$/g, ''),
      port: url.port === '' ? 80 : Number(url.port),
      path: url.pathname + url.search,
      method: incoming.method,
      headers: { ...headers, host: url.host },
    });
    const answered = new Promise<IncomingMessage>((resolve, reject) => {
      asked.once('response', resolve).once('error', reject);
    });
    const sent = pipeline(incoming, asked);
    sent.catch(() => undefined);
    let answer: IncomingMessage;
    try {
      answer = await answered;
    } catch (error) {
      if (isRefusal(error)) refuse(outgoing);
      else outgoing.destroy();
      return;
    }
    outgoing.writeHead(answer.statusCode ?? 502, answer.statusMessage, answer.headers);
    await pipeline(answer, outgoing);
  };
  server.on('connect', (incoming: IncomingMessage, socket: Duplex) => {
    socket.on('error', () => socket.destroy());
    const target = URL.canParse(`http://${incoming.url ?? ''}`)
      ? new URL(`http://${incoming.url!}`)
      : undefined;
    if (!target || !mayAsk(target.hostname)) {
      socket.end('HTTP/1.1 403 Forbidden\r\n\r\n');
      return;
    }
    const port = Number(/:(\d+)$/.exec(incoming.url!)?.[1] ?? 443);
    const upstream = connect({ host: target.hostname.replace(/^\[|\]$/g, ''), port, lookup });
    upstream.once('connect', () => {
      socket.write('HTTP/1.1 200 Connection Established\r\n\r\n');
      upstream.pipe(socket).pipe(upstream);
    });
    upstream.on('error', () => socket.end('HTTP/1.1 502 Bad Gateway\r\n\r\n'));
    socket.on('close', () => upstream.destroy());
  });
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', resolve);
  });
  const { port } = server.address() as AddressInfo;
  return {
    address: `http://127.0.0.1:${port}`,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

function refuse(outgoing: ServerResponse): void {
  outgoing.writeHead(403, { [REFUSED_HEADER]: '1', 'content-length': '0' }).end();
}

/** A name without an address is nobody's; one whose address is private is refused. */
function isRefusal(error: unknown): boolean {
  return error instanceof Error && error.name === 'LocalAddressError';
}
