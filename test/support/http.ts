import { ApiError } from '@pragmatica/contract';
import { request as httpRequest, type IncomingHttpHeaders } from 'node:http';

const PATIENCE = 4;

export interface RawAnswer {
  readonly status: number;
  readonly headers: IncomingHttpHeaders;
  readonly body: Buffer;
  readonly text: string;
}

export interface RawRequest {
  readonly port: number;
  readonly path?: string;
  readonly method?: string;
  readonly host?: string;
  readonly headers?: Record<string, string>;
  readonly body?: string;
  /** Called when the first bytes of the answer's body are there. */
  readonly onFirstBytes?: () => void;
}

/** What goes on until whoever asks leaves: its first bytes are all of it. */
const ENDLESS = /^\/api\/v1\/sites\/[^/]+\/live(?:\?|$)/;

/** One request over a plain socket to loopback, with nothing added and nothing decoded. */
export function send({
  port,
  path = '/',
  method = 'GET',
  host,
  headers = {},
  body,
  onFirstBytes,
}: RawRequest): Promise<RawAnswer> {
  return new Promise((resolve, reject) => {
    const request = httpRequest(
      { host: '127.0.0.1', port, path, method, headers: { ...(host ? { host } : {}), ...headers } },
      (response) => {
        const chunks: Buffer[] = [];
        if (onFirstBytes) response.once('data', onFirstBytes);
        const end = (): void => {
          const whole = Buffer.concat(chunks);
          resolve({
            status: response.statusCode!,
            headers: response.headers,
            body: whole,
            text: whole.toString(),
          });
        };
        response.on('data', (chunk: Buffer) => {
          chunks.push(chunk);
          if (!ENDLESS.test(path) || response.statusCode !== 200) return;
          end();
          request.destroy();
        });
        response.on('error', reject);
        response.on('end', end);
      },
    );
    request.on('error', reject);
    request.end(body);
  });
}

/** A call of the API, raw, for what the typed client would never send. */
export async function api(
  server: string,
  token: string | undefined,
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
) {
  const answer = await send({
    port: Number(new URL(server).port),
    method,
    path: `/api/v1${path}`,
    headers: {
      ...(token === undefined ? {} : { authorization: `Bearer ${token}` }),
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      ...headers,
    },
    ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  });
  const isJson = /^application\/(problem\+)?json/.test(answer.headers['content-type'] ?? '');
  return { ...answer, json: (isJson ? JSON.parse(answer.text) : undefined) as Record<string, unknown> };
}

/**
 * Waits until a condition holds, looking often; fails with what it last saw.
 *
 * @param limitMs - on a machine with nothing else to do; a busy one gets several times as long
 */
export async function eventually(check: () => unknown, limitMs = 5_000): Promise<void> {
  const end = Date.now() + limitMs * PATIENCE;
  for (;;) {
    try {
      await check();
      return;
    } catch (error) {
      if (Date.now() > end) throw error;
      await new Promise((done) => setTimeout(done, 20));
    }
  }
}

/** What a call that must fail is answered with. */
export async function problemOf(call: Promise<unknown>): Promise<ApiError> {
  try {
    await call;
  } catch (error) {
    if (error instanceof ApiError) return error;
    throw error;
  }
  throw new Error('it did not fail');
}
