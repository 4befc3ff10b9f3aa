import { PageInserter, charsetOf, type PreparedParts } from '@pragmatica/core';
import { changeHeaders, planLoad, type PlannedLoad, type Releases } from './page-load.js';
import type { InsertSettings } from './answer.js';

/**
 * An answer of the Fetch API with what its page gets in it, as it streams by; the answer itself where that is nothing, or
 * anything of ours fails.
 */
export function withParts(
  releases: Releases,
  request: Request,
  response: Response,
  settings: InsertSettings = {},
): Response {
  try {
    const { pathname, search, host } = new URL(request.url);
    const visit = Object.fromEntries(request.headers);
    const load =
      request.method === 'GET' || request.method === 'HEAD'
        ? planLoad(releases, pathname + search, host, visit)
        : undefined;
    return load ? inserted(load, request, response, settings) : response;
  } catch {
    return response;
  }
}

function inserted(
  load: PlannedLoad,
  request: Request,
  response: Response,
  settings: InsertSettings,
): Response {
  const headers = new Headers(response.headers);
  const type = headers.get('content-type');
  const parts = changeHeaders(
    {
      get: (name) => headers.get(name) ?? undefined,
      set: (name, value) => headers.set(name, value),
      remove: (name) => headers.delete(name),
    },
    response.status,
    load,
    new URL(request.url).origin,
    settings,
  );
  const { status, statusText } = response;
  if (!parts || request.method === 'HEAD' || !response.body)
    return new Response(response.body, { status, statusText, headers });
  const encoding = charsetOf(type ?? '');
  const body = response.body.pipeThrough(inserting(parts, encoding));
  return new Response(body, { status, statusText, headers });
}

function inserting(
  parts: PreparedParts,
  encoding: string | undefined,
): TransformStream<Uint8Array, Uint8Array> {
  const inserter = new PageInserter(parts, encoding === undefined ? {} : { encoding });
  let hasFailed = false;
  const attempt = (
    work: () => Uint8Array[],
    controller: TransformStreamDefaultController<Uint8Array>,
  ): void => {
    let pieces: Uint8Array[];
    try {
      pieces = work();
    } catch {
      hasFailed = true;
      pieces = [inserter.held()];
    }
    for (const piece of pieces) if (piece.length > 0) controller.enqueue(piece);
  };
  return new TransformStream({
    transform(chunk, controller) {
      if (hasFailed) controller.enqueue(chunk);
      else attempt(() => inserter.write(chunk), controller);
    },
    flush(controller) {
      if (!hasFailed) attempt(() => inserter.end(), controller);
    },
  });
}
