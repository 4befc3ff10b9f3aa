import type { Agent } from 'undici';
import { localhostLookup } from './localhost-lookup.js';

let agent: Agent | undefined;

/**
 * The standard `fetch`, with names below `.localhost` resolved. What it takes is loaded with the first request: many commands
 * make none.
 */
export const localhostFetch = (async (input: string, init?: object) => {
  const { Agent, fetch: undiciFetch } = await import('undici');
  agent ??= new Agent({ connect: { lookup: localhostLookup } });
  return undiciFetch(input, { ...init, dispatcher: agent });
}) as unknown as typeof fetch;
