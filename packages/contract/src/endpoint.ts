import type { Need, Right } from '@pragmatica/core';
import type { z } from 'zod';
import type { CountLimit } from './limits.js';

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** One call of the API. The server's routes, the OpenAPI document and the client are all made from these. */
export interface Endpoint {
  readonly method: Method;
  /** Path below `/api/v1`, parameters in braces. */
  readonly path: string;
  readonly summary: string;
  readonly params?: z.ZodObject;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** Without one the answer is 204. */
  readonly response?: z.ZodType;
  /** The answer is newline-delimited JSON of these. */
  readonly stream?: z.ZodType;
  /** The answer is bytes of this media type, as they come. */
  readonly download?: string;
  /** The body is bytes of one of these media types, as they come. */
  readonly upload?: readonly string[];
  /** Status of success when it is not 200 or 204. */
  readonly status?: number;
  /** Changes something that has an `ETag`: `If-Match` is required. */
  readonly needsIfMatch?: boolean;
  /** What whoever asks must be allowed. */
  readonly needs: Need;
  /** Fields of the body that need another right at the site. */
  readonly fieldNeeds?: Readonly<Record<string, Right>>;
  /** Matters so much that whoever asks must have given their password a short while ago. */
  readonly needsConfirmation?: boolean;
  /** It makes one more of something that there may be only so many of. */
  readonly makes?: CountLimit;
  /** Answers while a one-time password has not been changed yet. */
  readonly beforePasswordChange?: boolean;
}

type Parsed<T> = T extends z.ZodType ? z.output<T> : undefined;
type Given<T> = T extends z.ZodType ? z.input<T> : undefined;

/** What a handler gets, validated. */
export interface EndpointRequest<E extends Endpoint> {
  readonly params: Parsed<E['params']>;
  readonly query: Parsed<E['query']>;
  readonly body: Parsed<E['body']>;
}

/** What a handler returns, before it is validated. */
export type EndpointResponse<E extends Endpoint> = DeepReadonly<Given<E['response']>>;

type DeepReadonly<T> = T extends (infer I)[]
  ? readonly DeepReadonly<I>[]
  : T extends object
    ? { readonly [K in keyof T]: DeepReadonly<T[K]> }
    : T;

/** What a caller gets. */
export type EndpointResult<E extends Endpoint> = Parsed<E['response']>;

type OptionalUndefined<T> = { [K in keyof T as T[K] extends undefined ? never : K]: T[K] };

/** What a caller passes. */
export type EndpointCall<E extends Endpoint> = OptionalUndefined<{
  params: Given<E['params']>;
  query: Given<E['query']>;
  body: Given<E['body']>;
}> &
  (E['needsIfMatch'] extends true ? { ifMatch: string } : unknown);
