import robotsParserModule from 'robots-parser';
import type { SiteClient } from '../outgoing/site-client.js';
import { readBounded } from '../outgoing/read-bounded.js';
import type { RobotsVerdict } from '../storage/surveys.js';
import type { SurveyBase } from './survey-base.js';
import { ROBOT_NAME } from './tools.js';

// The package is CommonJS; its types describe the default export one level off.
const robotsParser = robotsParserModule as unknown as typeof robotsParserModule.default;

/** Parsers must take 500 kibibytes; more is not read (RFC 9309, 2.5). */
const MAX_BYTES = 500 * 1024;
/** Redirects that are followed (RFC 9309, 2.3.1.2). */
const MAX_REDIRECTS = 5;
const TIMEOUT_MS = 10_000;
const MAX_DELAY_MS = 60_000;

/**
 * What a site's robots.txt says to us (RFC 9309, 2.3.1): an answer of 4xx allows everything, an answer of 5xx or none
 * forbids everything until it is there again.
 */
export async function askRobots(
  client: SiteClient,
  base: SurveyBase,
  signal: AbortSignal,
): Promise<RobotsVerdict> {
  try {
    const response = await client.get(base.address, '/robots.txt', {
      headers: base.headers,
      redirects: MAX_REDIRECTS,
      signal: AbortSignal.any([signal, AbortSignal.timeout(TIMEOUT_MS)]),
    });
    const { status } = response;
    if (status >= 500) {
      await response.body?.cancel();
      return { kind: 'unreachable', status, delayMs: 0, text: '' };
    }
    if (!response.ok) {
      await response.body?.cancel();
      return { kind: 'none', status, delayMs: 0, text: '' };
    }
    const bytes = await readBounded(response, MAX_BYTES, 'cut');
    const text = new TextDecoder().decode(bytes).replaceAll('\0', '');
    const delay = robotsParser(`${base.address}/robots.txt`, text).getCrawlDelay(ROBOT_NAME) ?? 0;
    return { kind: 'rules', status, delayMs: Math.min(Math.max(0, delay * 1000), MAX_DELAY_MS), text };
  } catch (error) {
    if (signal.aborted) throw error;
    return { kind: 'unreachable', status: null, delayMs: 0, text: '' };
  }
}

/** What robots.txt says of paths. */
export interface RobotsRules {
  isAllowed(path: string): boolean;
  /** Addresses that its `Sitemap` lines name. */
  readonly sitemaps: readonly string[];
}

/** @param isIgnored - the owner wants what it forbids to be visited, too */
export function robotsRules(
  verdict: RobotsVerdict | null,
  base: SurveyBase,
  isIgnored: boolean,
): RobotsRules {
  const robots = robotsParser(`${base.address}/robots.txt`, verdict?.text ?? '');
  return {
    isAllowed: (path) => isIgnored || robots.isAllowed(base.address + path, ROBOT_NAME) !== false,
    sitemaps: robots.getSitemaps(),
  };
}
