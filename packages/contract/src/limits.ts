import { formatMessage } from '@pragmatica/core';
import { FIELD_TEXTS } from './texts/field-texts.js';

/** How many there may be of something, and of what. An installation may say otherwise (`PRAGMATICA_LIMITS`). */
export const COUNT_LIMITS = {
  sites: { most: 1_000, of: 'installation' },
  members: { most: 1_000, of: 'installation' },
  invitations: { most: 200, of: 'installation' },
  recipes: { most: 1_000, of: 'installation' },
  snippets: { most: 10_000, of: 'site' },
  waivers: { most: 2_000, of: 'site' },
  approvals: { most: 100, of: 'site' },
  comments: { most: 5_000, of: 'site' },
  handovers: { most: 100, of: 'site' },
  webhooks: { most: 20, of: 'site' },
  tokens: { most: 100, of: 'member' },
  passkeys: { most: 20, of: 'member' },
  identities: { most: 10, of: 'member' },
} as const satisfies Record<
  string,
  { readonly most: number; readonly of: 'installation' | 'site' | 'member' }
>;

export type CountLimit = keyof typeof COUNT_LIMITS;

/** Calls of the API in a minute. */
export const RATE_LIMITS = {
  'calls-of-member': { most: 1_200 },
  /** Of an address, without an account. */
  'calls-of-stranger': { most: 300 },
  'calls-of-installation': { most: 12_000 },
} as const;

export type RateLimitName = keyof typeof RATE_LIMITS;

/** How much is kept of a site beside its set. The oldest goes first; the newest stays, however much it is. */
export const QUOTAS = {
  /** Evidence and pictures of visits, in millions of bytes. */
  'evidence-megabytes': { most: 2_000 },
  'surveyed-pages': { most: 500_000 },
} as const;

export type Quota = keyof typeof QUOTAS;

/** Bytes of what a call brings. */
export const SIZE_LIMITS = {
  body: 4 << 20,
  /** A whole site in a file. */
  'site-file': 48 << 20,
} as const;

export type LimitName = CountLimit | RateLimitName | Quota;

/** Every limit that an installation may set otherwise. */
export const LIMIT_NAMES = [
  ...Object.keys(COUNT_LIMITS),
  ...Object.keys(RATE_LIMITS),
  ...Object.keys(QUOTAS),
] as LimitName[];

export type Limits = Readonly<Record<LimitName, number>>;

/** The limits where nobody has said otherwise. */
export const DEFAULT_LIMITS: Limits = Object.fromEntries(
  [...Object.entries(COUNT_LIMITS), ...Object.entries(RATE_LIMITS), ...Object.entries(QUOTAS)].map(
    ([name, { most }]) => [name, most],
  ),
) as Record<LimitName, number>;

/**
 * Limits as a setting writes them: `tokens=10, calls-of-member=600`. What is not named stays as it is.
 *
 * @returns what is wrong with it, where something is
 */
export function parseLimits(text: string): Limits | { readonly problem: string } {
  const limits: Record<LimitName, number> = { ...DEFAULT_LIMITS };
  for (const part of text.split(',').filter((one) => one.trim() !== '')) {
    const equals = part.indexOf('=');
    const [name, number] = [part.slice(0, Math.max(equals, 0)).trim(), part.slice(equals + 1).trim()];
    if (!LIMIT_NAMES.includes(name as LimitName) || !/^[1-9]\d{0,8}$/.test(number))
      return {
        problem: formatMessage(FIELD_TEXTS.limitUnknown, { part: part.trim(), names: LIMIT_NAMES }),
      };
    limits[name as LimitName] = Number(number);
  }
  return limits;
}
