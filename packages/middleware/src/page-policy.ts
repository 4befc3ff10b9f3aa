import { extendPolicy, nonceIn, partsWithNonce, policiesIn, type PreparedParts } from '@pragmatica/core';
import type { FollowedRelease } from './follow.js';
import type { AnswerHeaders, InsertSettings } from './answer.js';

const POLICY = 'content-security-policy';

/**
 * The parts with the nonce of the answer's content policy, if it has one, and the policy with what they need, if that is wanted.
 *
 * @param address - scheme and host of the page
 */
export function policedParts(
  headers: AnswerHeaders,
  parts: PreparedParts,
  release: FollowedRelease,
  address: string,
  settings: InsertSettings,
): PreparedParts {
  const policies = policiesIn(headers.get(POLICY) ?? '');
  if (policies.length === 0) return parts;
  const nonce = policies.map(nonceIn).find((one) => one !== undefined);
  if (settings.extendPolicy === true) {
    const needs = parts.keys.flatMap((key) => release.needs().get(key) ?? []);
    const extended = policies.map(
      (policy) =>
        extendPolicy(policy, needs, address, nonce !== undefined && nonceIn(policy) === nonce).value,
    );
    headers.set(POLICY, extended.join(', '));
  }
  return nonce === undefined ? parts : partsWithNonce(parts, nonce);
}
