import {
  SIZE_LIMITS,
  endpoints,
  fieldErrors,
  openApiDocument,
  textProblem,
  type Endpoint,
  type EndpointName,
  type Limits,
} from '@pragmatica/contract';
import { Router, json, type Request, type Response } from 'express';
import type { z } from 'zod';
import { assertConfirmed } from '../auth/confirm.js';
import { ServiceError } from '../errors.js';
import { INPUT_PARTS } from '../texts/input-parts.js';
import { say } from '../texts/say.js';
import { askedBy, type Asker } from '../storage/asker.js';
import type { Credential } from '../storage/rows.js';
import { speakAsInstalled, speakIn } from '../language/speech.js';
import type { Store } from '../storage/store.js';
import { admit, siteOf, type Admitted } from './admit.js';
import { assertRoom } from './assert-room.js';
import { authorizeFields } from './authorize.js';
import { sendBytes } from './bytes.js';
import { CallCounter } from './call-counter.js';
import type { HandlerAnswer, Handlers, RequestContext } from './context.js';
import { toServiceError } from './error-handler.js';
import { toProblem } from './problems.js';
import { languageFor } from '../language/language-of.js';
import { localeOf } from './reader-locale.js';
import { streamAnswer } from './stream-answer.js';

/** Where a whole site may come; only from somebody who is signed in. */
const SITE_FILE_PATH = '/site-files';

/** So many wrong fields are told one by one. */
const MOST_ERRORS = 100;

type AnyHandler = (
  input: unknown,
  context: RequestContext,
) => Promise<HandlerAnswer<EndpointName>> | AsyncIterable<unknown>;

export interface ApiOptions {
  /** Each call works on a fork of it. */
  readonly store: Store;
  readonly handlers: Handlers;
  /** Told after every call that may have changed something. */
  readonly onChange: () => void;
  /** For so long what matters can be done after somebody gave their password. */
  readonly confirmationMinutes: number;
  /** How many calls there may be in a minute, and how many of what they make. */
  readonly limits: Limits;
  readonly version: string;
}

/** The API: one route per endpoint of the contract, input and output validated by the contract's schemas. */
export function createApiRouter({
  store: root,
  handlers,
  onChange,
  confirmationMinutes,
  limits,
  version,
}: ApiOptions): Router {
  const router = Router();
  const calls = new CallCounter(limits);
  // Made for whoever first asks for it: that takes longer than all the rest of the start.
  let document: ReturnType<typeof openApiDocument> | undefined;
  router.get('/openapi.json', async (request, response) => {
    await calls.admit(root.fork(), { needs: 'sign-in' }, request, response);
    document ??= speakAsInstalled(() => openApiDocument(version));
    response.json(document);
  });
  router.post(
    SITE_FILE_PATH,
    async (request, response, next) => {
      await calls.admit(root.fork(), endpoints.importSite, request, response);
      next();
    },
    json({ limit: SIZE_LIMITS['site-file'] }),
  );
  router.use(json({ limit: SIZE_LIMITS.body, type: ['application/json', 'application/merge-patch+json'] }));
  const methods = new Map<string, string[]>();
  for (const [name, endpoint] of Object.entries(endpoints) as [EndpointName, Endpoint][]) {
    const path = endpoint.path.replace(/\{(\w+)\}/g, ':$1');
    methods.set(path, [...(methods.get(path) ?? []), endpoint.method]);
    const handler = handlers[name] as AnyHandler;
    const route = endpoint.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
    router[route](path, async (request, response) => {
      await serve(root.fork(), endpoint, { handler, confirmationMinutes, limits, calls }, request, response);
      if (endpoint.method !== 'GET') onChange();
    });
  }
  for (const [path, allowed] of methods) {
    router.all(path, (request, response) => {
      response.setHeader('Allow', allowed.join(', '));
      throw new ServiceError('other-method', { method: request.method, allowed: allowed.join(', ') });
    });
  }
  router.use((request) => {
    throw new ServiceError('no-such-call', { method: request.method, path: request.path });
  });
  return router;
}

interface Serving extends Pick<ApiOptions, 'confirmationMinutes' | 'limits'> {
  readonly handler: AnyHandler;
  readonly calls: CallCounter;
}

async function serve(
  store: Store,
  endpoint: Endpoint,
  serving: Serving,
  request: Request,
  response: Response,
): Promise<void> {
  response.setHeader('Cache-Control', 'no-store');
  const admitted = await serving.calls.admit(store, endpoint, request, response);
  const language = languageFor(request);
  response.setHeader('Content-Language', language.tag);
  await speakIn(language, () => answer(store, endpoint, serving, admitted, request, response));
}

async function answer(
  store: Store,
  endpoint: Endpoint,
  { handler, confirmationMinutes, limits }: Serving,
  { credential, access }: Admitted,
  request: Request,
  response: Response,
): Promise<void> {
  if (endpoint.needsConfirmation && credential) assertConfirmed(credential, confirmationMinutes);
  if (endpoint.body) assertJson(request);
  if (endpoint.upload) assertUpload(request, endpoint.upload);
  const input = {
    params: parseInput(endpoint.params, request.params, 'address'),
    query: parseInput(endpoint.query, request.query, 'query'),
    body: parseInput(endpoint.body, request.body, 'body'),
  };
  await authorizeFields(store, endpoint, access, { site: siteOf(request), body: input.body });
  await assertRoom(store, endpoint, limits, { site: siteOf(request), member: credential?.member });
  const ifMatch = request.headers['if-match'];
  if (endpoint.needsIfMatch && ifMatch === undefined) {
    throw new ServiceError('if-match-missing', {});
  }
  const context: RequestContext = {
    store,
    credential,
    access,
    actor: credential?.member.login ?? '',
    locale: localeOf(request),
    ifMatch: ifMatch ?? '',
    request,
    response,
  };
  await askedBy(askerOf(request, credential), async () => {
    const given = handler(input, context);
    if (Symbol.asyncIterator in given && endpoint.download !== undefined)
      await sendBytes(given as AsyncIterable<Uint8Array>, endpoint.download, response);
    else if (Symbol.asyncIterator in given)
      await streamAnswer(given, request, response, {
        admit: () => admit(store.fork(), endpoint, request),
        // What it brings may make whoever asked somebody else, and tells how it ended.
        ...(endpoint.upload ? { admit: undefined, failed: (error) => failedEvent(error, request) } : {}),
      });
    else sendAnswer(await given, endpoint, request, response);
  });
}

/** What the trail says of where a request comes from. */
function askerOf(request: Request, credential: Credential | undefined): Asker {
  return { token: credential?.kind === 'token' ? credential.name : null, address: request.ip ?? null };
}

function sendAnswer(
  answer: HandlerAnswer<EndpointName>,
  endpoint: Endpoint,
  request: Request,
  response: Response,
): void {
  if (answer.etag !== undefined) response.setHeader('ETag', answer.etag);
  if (answer.location !== undefined) response.setHeader('Location', answer.location);
  if (!endpoint.response) {
    response.status(204).end();
    return;
  }
  if (
    request.method === 'GET' &&
    answer.etag !== undefined &&
    request.headers['if-none-match'] === answer.etag
  ) {
    response.status(304).end();
    return;
  }
  response.status(endpoint.status ?? 200).json(endpoint.response.parse(answer.data));
}

type InputPart = 'address' | 'query' | 'body';

/** The whole of what came, or a field of it. */
function placeWords(pointer: string, part: InputPart): string {
  return pointer === '' ? INPUT_PARTS[part].whole : say(INPUT_PARTS[part].field, { field: pointer.slice(1) });
}

function parseInput(schema: z.ZodType | undefined, value: unknown, what: InputPart): unknown {
  if (!schema) return undefined;
  const unfit = textProblem(value);
  if (unfit) {
    const where = placeWords(unfit.pointer, what);
    throw new ServiceError('input-wrong', { where, detail: unfit.detail, more: 0 }, { errors: [unfit] });
  }
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const errors = fieldErrors(result.error, schema);
  const first = errors[0]!;
  // A wrong address is one that leads nowhere.
  if (what === 'address')
    throw new ServiceError('wrong-address', { field: first.pointer.slice(1), detail: first.detail });
  const where = placeWords(first.pointer, what);
  const params = { where, detail: first.detail, more: errors.length - 1 };
  throw new ServiceError('input-wrong', params, { errors: errors.slice(0, MOST_ERRORS) });
}

function failedEvent(error: unknown, request: Request): unknown {
  const problem = toServiceError(error);
  return { type: 'failed', problem: toProblem(problem, request.path, localeOf(request)) };
}

function assertUpload(request: Request, types: readonly string[]): void {
  if (!request.is([...types])) throw new ServiceError('not-upload-type', { types: types.join(', ') });
}

function assertJson(request: Request): void {
  if (
    request.is(['application/json', 'application/merge-patch+json']) === false ||
    request.headers['content-type'] === undefined
  ) {
    throw new ServiceError('not-json-type', {});
  }
}
