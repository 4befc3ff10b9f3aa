import type { RequestKind } from '@pragmatica/core';
import type { Protocol } from './protocol.js';

const KINDS: Partial<Record<Protocol.Network.ResourceType, RequestKind>> = {
  Document: 'document',
  Script: 'script',
  Stylesheet: 'style',
  Image: 'image',
  Font: 'font',
  Media: 'media',
  XHR: 'fetch',
  Fetch: 'fetch',
  EventSource: 'fetch',
  Ping: 'beacon',
  WebSocket: 'socket',
};

/** What a request is for. */
export function requestKind(type: Protocol.Network.ResourceType = 'Other'): RequestKind {
  return KINDS[type] ?? 'other';
}
