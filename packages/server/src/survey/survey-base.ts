import { originsOf } from '@pragmatica/contract';
import type { Host } from '../storage/rows.js';
import type { SurveySide } from '../storage/surveys.js';
import { USER_AGENT } from './tools.js';

/** Where a survey asks, and under which name. */
export interface SurveyBase {
  /** Scheme, host and port. */
  readonly address: string;
  readonly headers: Readonly<Record<string, string>>;
  /** Whether a link to this hostname stays on the site. */
  readonly isOwnHost: (hostname: string) => boolean;
}

/** The site as visitors reach it, or its origin as the gateway does. @param access - headers that let us in */
export function surveyBase(
  host: Host,
  side: SurveySide,
  access: Readonly<Record<string, string>>,
): SurveyBase {
  const address = new URL(
    side === 'origin' ? originsOf(host.origin)[0]! : (host.address ?? `http://${host.host}`),
  );
  const own = new Set([host.host, address.hostname]);
  return {
    address: address.origin,
    headers: {
      'user-agent': USER_AGENT,
      'accept-language': '*',
      ...(side === 'origin' ? { 'x-forwarded-host': host.host } : {}),
      ...access,
    },
    isOwnHost: (hostname) => own.has(hostname),
  };
}
