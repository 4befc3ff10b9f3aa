import { Agent, fetch as undiciFetch } from 'undici';
import { localhostLookup } from './localhost-lookup.js';

const agent = new Agent({ connect: { lookup: localhostLookup } });

/** The standard `fetch`, with names below `.localhost` resolved. */
export const localhostFetch = ((input: string, init?: object) =>
  undiciFetch(input, { ...init, dispatcher: agent })) as unknown as typeof fetch;
