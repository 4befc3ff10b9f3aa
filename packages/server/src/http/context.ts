import type { Store } from '../storage/store.js';
import type {
  EndpointName,
  EndpointRequest,
  EndpointResponse,
  Endpoints,
  StreamEvent,
} from '@pragmatica/contract';
import type { Access } from '@pragmatica/core';
import type { Request, Response } from 'express';
import type { ZodType } from 'zod';
import type { Credential } from '../storage/rows.js';

/** What a handler may use besides its validated input. */
export interface RequestContext {
  readonly store: Store;
  /** Present on every endpoint that is not public. */
  readonly credential: Credential | undefined;
  /** What whoever asks may do. */
  readonly access: Access;
  /** The login written into audit entries. */
  readonly actor: string;
  /** Where the reader lives: how numbers and dates are written. */
  readonly locale: string;
  /** Present where the endpoint needs it. */
  readonly ifMatch: string;
  readonly request: Request;
  readonly response: Response;
}

export interface HandlerAnswer<N extends EndpointName> {
  readonly data: EndpointResponse<Endpoints[N]>;
  readonly etag?: string;
  /** Address of what was made. */
  readonly location?: string;
}

export type Handler<N extends EndpointName> = (
  input: EndpointRequest<Endpoints[N]>,
  context: RequestContext,
) => Endpoints[N] extends { stream: ZodType }
  ? AsyncIterable<StreamEvent<Endpoints[N]>>
  : Endpoints[N] extends { download: string }
    ? AsyncIterable<Uint8Array>
    : Promise<HandlerAnswer<N>>;

/** Exactly one handler for every endpoint of the contract. */
export type Handlers = { readonly [N in EndpointName]: Handler<N> };

/** A feature's share of the handlers. */
export type HandlersOf<N extends EndpointName> = Pick<Handlers, N>;
