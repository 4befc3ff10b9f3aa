import type { RequestKind } from './evidence.js';

export const THIRD_PARTIES = ['real', 'stand-ins', 'blocked'] as const;

/**
 * What requests to other hosts get in a visit: their real answers; real files, but a stand-in answers what is reported, so that
 * nobody counts the visit; or nothing.
 */
export type ThirdParties = (typeof THIRD_PARTIES)[number];

/** What one host gets, and all below it. */
export interface HostAnswer {
  readonly host: string;
  readonly answer: ThirdParties;
}

/** What other hosts get, as a site's owner has said. */
export interface ThirdPartyRules {
  /** All that are not named. */
  readonly usual: ThirdParties;
  readonly hosts: readonly HostAnswer[];
}

/** A request to another host, before it is sent. */
export interface OutgoingRequest {
  readonly url: string;
  readonly method: string;
  readonly kind: RequestKind;
  /** The `Content-Type` of what is sent along. */
  readonly contentType?: string | undefined;
}

/** What a picture's file is called; a GIF is as often a pixel. */
const PICTURE = /\.(?:avif|bmp|ico|jpe?g|png|svg|webp)$/i;

/**
 * Whether a request tells something and needs no answer. A page cannot read what a beacon or a pixel is answered; a fetch that
 * sends plain text asks nobody for permission first (Fetch, CORS-safelisted), and is what counters use instead of a beacon.
 */
export function isReport({ url, method, kind, contentType }: OutgoingRequest): boolean {
  if (kind === 'beacon') return true;
  if (kind === 'image') {
    const [path = '', query = ''] = url.split('#', 1)[0]!.split('?', 2);
    return query !== '' && !PICTURE.test(path);
  }
  return isWrite({ kind, method }) && (contentType === undefined || /^text\/plain\b/i.test(contentType));
}

/** Whether a script sends something somewhere. */
export function isWrite({ kind, method }: Pick<OutgoingRequest, 'kind' | 'method'>): boolean {
  return kind === 'fetch' && !/^(?:get|head|options)$/i.test(method);
}

/**
 * What a request to another host gets. The rule for the most exact name counts. By the usual rule a stand-in takes only what is a
 * report for certain; of a host that is named, whatever is sent there.
 */
export function answerTo(request: OutgoingRequest, { usual, hosts }: ThirdPartyRules): ThirdParties {
  const rule = ruleFor(request.url, hosts);
  const answer = rule?.answer ?? usual;
  if (answer !== 'stand-ins') return answer;
  return isReport(request) || (rule !== undefined && isWrite(request)) ? 'stand-ins' : 'real';
}

function ruleFor(url: string, hosts: readonly HostAnswer[]): HostAnswer | undefined {
  if (hosts.length === 0 || !URL.canParse(url)) return undefined;
  const { hostname } = new URL(url);
  let found: HostAnswer | undefined;
  for (const rule of hosts)
    if (
      (hostname === rule.host || hostname.endsWith(`.${rule.host}`)) &&
      rule.host.length > (found?.host.length ?? 0)
    )
      found = rule;
  return found;
}
