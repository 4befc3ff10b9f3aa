import type { RequestKind } from '@pragmatica/core';
import type { Protocol } from './protocol.js';

/** The smallest GIF: one clear pixel. */
const PIXEL = 'R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7';

/** What a host answers that has nothing to say: a clear pixel to an image, 204 to anything else (RFC 9110, 15.3.5). */
export function standInAnswer(
  requestId: string,
  { method, headers }: Protocol.Network.Request,
  kind: RequestKind,
): Protocol.Fetch.FulfillRequestRequest {
  const isImage = kind === 'image';
  return {
    requestId,
    responseCode: isImage ? 200 : 204,
    responseHeaders: [
      ...(isImage ? [{ name: 'Content-Type', value: 'image/gif' }] : []),
      { name: 'Cache-Control', value: 'no-store' },
      ...sharedWith(method, lower(headers)),
    ],
    ...(isImage ? { body: PIXEL } : {}),
  };
}

/** The headers with which a server lets other sites read what it answers, and send what they like (Fetch, CORS protocol). */
function sharedWith(
  method: string,
  headers: ReadonlyMap<string, string>,
): readonly { readonly name: string; readonly value: string }[] {
  const origin = headers.get('origin');
  if (origin === undefined) return [];
  return [
    { name: 'Access-Control-Allow-Origin', value: origin },
    { name: 'Access-Control-Allow-Credentials', value: 'true' },
    ...(method === 'OPTIONS'
      ? [
          { name: 'Access-Control-Allow-Methods', value: wantedMethod(headers) ?? 'POST' },
          {
            name: 'Access-Control-Allow-Headers',
            value: headers.get('access-control-request-headers') ?? '',
          },
        ]
      : []),
  ];
}

/** Which method a browser asks for leave to use, where it does (Fetch, CORS-preflight request). */
export function askedMethod({ method, headers }: Protocol.Network.Request): string | undefined {
  return method === 'OPTIONS' ? wantedMethod(lower(headers)) : undefined;
}

function wantedMethod(headers: ReadonlyMap<string, string>): string | undefined {
  return headers.get('access-control-request-method');
}

function lower(headers: Protocol.Network.Headers): ReadonlyMap<string, string> {
  return new Map(Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value]));
}
