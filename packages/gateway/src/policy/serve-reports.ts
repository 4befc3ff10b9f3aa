import type { IncomingMessage, ServerResponse } from 'node:http';
import { readPolicyReports } from '@pragmatica/core';
import type { ReportCounter } from './report-counter.js';

/** Where browsers report to, at any name of the gateway that is no site's. */
export const REPORTS_PATH = '/policy-reports';
const MAX_BYTES = 64 * 1024;
/** What browsers ask before they report to another host (Fetch, 3.2). */
const CORS = {
  'access-control-allow-origin': '*',
  'access-control-allow-methods': 'POST',
  'access-control-allow-headers': 'content-type',
  'access-control-max-age': '86400',
} as const;

/**
 * Takes reports of browsers on what a content policy stops. Whatever comes is answered alike: who sends nonsense learns nothing.
 *
 * @param isServed - whether pages of a host are anybody's here
 * @returns whether it was a report
 */
export function takeReports(
  request: IncomingMessage,
  response: ServerResponse,
  target: string,
  reports: ReportCounter,
  isServed: (host: string) => boolean,
): boolean {
  if (target.split('?', 1)[0] !== REPORTS_PATH) return false;
  if (request.method === 'OPTIONS') {
    response.writeHead(204, CORS).end();
    return true;
  }
  if (request.method !== 'POST') {
    response.writeHead(405, { allow: 'POST, OPTIONS', 'content-length': 0 }).end();
    return true;
  }
  const chunks: Buffer[] = [];
  let length = 0;
  request.on('data', (chunk: Buffer) => {
    length += chunk.length;
    if (length <= MAX_BYTES) chunks.push(chunk);
  });
  request.on('end', () => {
    if (length <= MAX_BYTES)
      for (const report of readPolicyReports(Buffer.concat(chunks).toString()))
        if (isServed(report.host)) reports.add(report);
    response.writeHead(204, CORS).end();
  });
  request.on('error', () => undefined);
  return true;
}
