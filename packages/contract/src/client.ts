import { formatMessage } from '@pragmatica/core';
import type { z } from 'zod';
import type { Endpoint, EndpointCall, EndpointResult } from './endpoint.js';
import { endpoints, type EndpointName, type Endpoints } from './endpoints/index.js';
import { problem as problemSchema, type Problem } from './schemas/index.js';
import { CLIENT_TEXTS } from './texts/client-texts.js';

export const API_BASE = '/api/v1';

/** The service said no. `problem` holds everything it said. */
export class ApiError extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail ?? problem.title);
    this.name = 'ApiError';
    this.problem = problem;
  }

  get status(): number {
    return this.problem.status;
  }
}

/** The service could not be reached, or what answered is not it. */
export class UnreachableError extends Error {
  constructor(address: string, cause: unknown) {
    super(formatMessage(CLIENT_TEXTS.unreachable, { address }), { cause });
    this.name = 'UnreachableError';
  }
}

export interface Answer<T> {
  readonly data: T;
  /** Pass it as `ifMatch` to a change, so that nobody else's change is overwritten. */
  readonly etag: string;
}

export interface ClientOptions {
  /** Address of the service without path; empty for the page's own. */
  readonly server: string;
  readonly token?: string | undefined;
  /** Where the reader lives (BCP 47), for numbers and dates; left out in a browser, which says it by itself. */
  readonly locale?: string | undefined;
  /** Replaces the global fetch. */
  readonly fetch?: typeof fetch;
}

export interface ApiClient {
  /** Makes one call. @throws ApiError, UnreachableError */
  call<N extends EndpointName>(
    name: N,
    input: EndpointCall<Endpoints[N]>,
    signal?: AbortSignal,
  ): Promise<Answer<EndpointResult<Endpoints[N]>>>;
  /** Makes a call that answers with a stream of events. @throws ApiError, UnreachableError */
  stream<N extends EndpointName>(
    name: N,
    input: EndpointCall<Endpoints[N]>,
    signal?: AbortSignal,
  ): AsyncGenerator<StreamEvent<Endpoints[N]>>;
  /** Makes a call that answers with bytes. @throws ApiError, UnreachableError */
  download<N extends EndpointName>(
    name: N,
    input: EndpointCall<Endpoints[N]>,
    signal?: AbortSignal,
  ): Promise<ReadableStream<Uint8Array>>;
  /**
   * Makes a call that brings bytes, and answers with events while they come.
   *
   * @throws ApiError, UnreachableError
   */
  upload<N extends EndpointName>(
    name: N,
    input: EndpointCall<Endpoints[N]>,
    bytes: Upload,
    signal?: AbortSignal,
  ): AsyncGenerator<StreamEvent<Endpoints[N]>>;
}

/** Bytes for a call, with their media type. */
export interface Upload {
  readonly type: string;
  readonly bytes: ReadableStream<Uint8Array> | Blob;
}

/** What an endpoint's stream is made of; never for one that has none. */
export type StreamEvent<E> = E extends { readonly stream: infer S extends z.ZodType } ? z.output<S> : never;

interface LooseInput {
  readonly params?: Record<string, string | number>;
  readonly query?: Record<string, string | number | undefined>;
  readonly body?: unknown;
  readonly ifMatch?: string;
  readonly upload?: Upload;
}

/** The one typed client of the API, for the console and the command line. */
export function createClient({ server, token, locale, fetch: fetchWith = fetch }: ClientOptions): ApiClient {
  async function send(endpoint: Endpoint, input: LooseInput, signal?: AbortSignal): Promise<Response> {
    const headers: Record<string, string> = { accept: 'application/json, application/problem+json' };
    if (locale !== undefined) headers['accept-language'] = locale;
    if (token !== undefined) headers['authorization'] = `Bearer ${token}`;
    if (input.body !== undefined)
      headers['content-type'] =
        endpoint.method === 'PATCH' ? 'application/merge-patch+json' : 'application/json';
    if (input.ifMatch !== undefined) headers['if-match'] = input.ifMatch;
    if (input.upload) headers['content-type'] = input.upload.type;
    const body = input.upload?.bytes ?? (input.body === undefined ? null : JSON.stringify(input.body));
    let response: Response;
    try {
      response = await fetchWith(addressOf(server, endpoint, input), {
        method: endpoint.method,
        headers,
        body,
        signal: signal ?? null,
        // A stream is sent as it comes; the answer may begin before it ends.
        ...(body instanceof ReadableStream ? { duplex: 'half' as const } : {}),
      });
    } catch (error) {
      if (signal?.aborted) throw error;
      throw new UnreachableError(server || 'this address', error);
    }
    if (!response.ok) throw await errorOf(response, server);
    return response;
  }

  return {
    async call(name, input, signal) {
      const endpoint: Endpoint = endpoints[name];
      const response = await send(endpoint, input, signal);
      const data = endpoint.response ? endpoint.response.parse(await readJson(response, server)) : undefined;
      return { data: data as never, etag: response.headers.get('etag') ?? '' };
    },
    async *stream(name, input, signal) {
      const endpoint: Endpoint = endpoints[name];
      const response = await send(endpoint, input, signal);
      yield* events(endpoint, response);
    },
    async download(name, input, signal) {
      const response = await send(endpoints[name], input, signal);
      return response.body!;
    },
    async *upload(name, input, bytes, signal) {
      const endpoint: Endpoint = endpoints[name];
      const response = await send(endpoint, { ...(input as LooseInput), upload: bytes }, signal);
      for await (const event of events(endpoint, response)) {
        const { type, problem: said } = event as { readonly type?: string; readonly problem?: Problem };
        if (type === 'failed' && said) throw new ApiError(said);
        yield event;
      }
    },
  };
}

async function* events(endpoint: Endpoint, response: Response): AsyncGenerator<never> {
  for await (const line of lines(response)) yield endpoint.stream!.parse(JSON.parse(line)) as never;
}

function addressOf(server: string, endpoint: Endpoint, input: LooseInput): string {
  const path = endpoint.path.replace(/\{(\w+)\}/g, (_, name: string) =>
    encodeURIComponent(String(input.params?.[name])),
  );
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(input.query ?? {}))
    if (value !== undefined) query.set(name, String(value));
  const search = query.size > 0 ? `?${query.toString()}` : '';
  return `${server.replace(/\/$/, '')}${API_BASE}${path}${search}`;
}

async function errorOf(response: Response, server: string): Promise<Error> {
  const parsed = problemSchema.safeParse(await response.json().catch(() => undefined));
  return parsed.success
    ? new ApiError(parsed.data)
    : new UnreachableError(server, new Error(`HTTP ${response.status}`));
}

async function readJson(response: Response, server: string): Promise<unknown> {
  try {
    return await response.json();
  } catch (error) {
    throw new UnreachableError(server, error);
  }
}

async function* lines(response: Response): AsyncGenerator<string> {
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { value, done } = await reader.read();
    if (done) break;
    const pieces = (rest + value).split('\n');
    rest = pieces.pop()!;
    yield* pieces.filter((piece) => piece !== '');
  }
  if (rest !== '') yield rest;
}
