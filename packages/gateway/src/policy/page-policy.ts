import { createHash, randomBytes } from 'node:crypto';
import type { SentPolicy } from '@pragmatica/contract';
import {
  extendPolicy,
  nonceIn,
  ownPolicyText,
  partsWithNonce,
  policiesIn,
  reportingEndpoints,
  withReports,
  withSources,
  type PolicyNeed,
  type PreparedParts,
} from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import type { HeaderMap } from '../page/headers.js';

const ENFORCED = 'content-security-policy';
const REPORTED = 'content-security-policy-report-only';
/** Texts of policies that were extended; a site has a handful. */
const TEXTS_KEPT = 500;
const NONCE_BYTES = 16;
const TAG_LENGTH = 6;

/** A page's answer with its policy. */
export interface PolicedAnswer {
  readonly headers: HeaderMap;
  readonly parts: PreparedParts | undefined;
  /** Its parts carry a nonce: nothing of it may be used for another answer. */
  readonly isOneTime: boolean;
}

/**
 * The content policy of a host's pages: a page's own is extended by what its parts need, and a page without one gets the
 * site's. All that needs code to be read was worked out before.
 */
export class PagePolicy {
  /** Another one for another policy: for tags of pages. */
  readonly tag: string;
  readonly #sent: SentPolicy;
  readonly #needs = new WeakMap<PreparedParts, readonly PolicyNeed[]>();
  readonly #extended = new WeakMap<readonly PolicyNeed[], LRUCache<string, string>>();

  constructor(sent: SentPolicy) {
    this.#sent = sent;
    this.tag = createHash('sha256').update(JSON.stringify(sent)).digest('hex').slice(0, TAG_LENGTH);
  }

  /**
   * @param headers - of an answer that is a page, as the origin sent them
   * @param page - scheme and host of the page, as visitors see it
   */
  apply(headers: HeaderMap, parts: PreparedParts | undefined, page: string): PolicedAnswer {
    const { mode, own, reportsTo } = this.#sent;
    const needs = this.#needsOf(parts);
    const there = policiesIn([headers[ENFORCED] ?? []].flat().join(', '));
    const sentNonce = there.map(nonceIn).find((nonce) => nonce !== undefined);
    const nonce =
      there.length === 0 && own.isStrict ? randomBytes(NONCE_BYTES).toString('base64') : sentNonce;
    const hasOwn = there.length === 0;
    const policies = hasOwn
      ? [this.#extend(ownPolicyText(own, nonce ?? ''), needs, page, nonce)]
      : there.map((policy) =>
          this.#extend(policy, needs, page, nonceIn(policy) === nonce ? nonce : undefined),
        );
    const isSecure = page.startsWith('https:');
    const reported = policies.map((policy) =>
      /(?:^|;)\s*report-(?:uri|to)\s/i.test(policy) && mode === 'enforce'
        ? policy
        : withReports(withoutReports(policy), { address: reportsTo, isSecure }),
    );
    const changed = { ...headers };
    if (mode === 'enforce') changed[ENFORCED] = reported.join(', ');
    else changed[REPORTED] = [[headers[REPORTED] ?? []].flat(), reported].flat().join(', ');
    if (isSecure)
      changed['reporting-endpoints'] = [
        [headers['reporting-endpoints'] ?? []].flat(),
        reportingEndpoints(reportsTo),
      ]
        .flat()
        .join(', ');
    return {
      headers: changed,
      parts: parts && nonce !== undefined ? partsWithNonce(parts, nonce) : parts,
      isOneTime: nonce !== undefined,
    };
  }

  /** What is said with "not modified" counts for the page that the client has: with a nonce in it, the kept one is right. */
  applyToUnchanged(headers: HeaderMap, parts: PreparedParts | undefined, page: string): void {
    const policies = policiesIn([headers[ENFORCED] ?? []].flat().join(', '));
    if (policies.length === 0) return;
    const changed = this.apply(headers, parts, page);
    delete headers['content-security-policy'];
    delete headers['content-security-policy-report-only'];
    if (changed.isOneTime) return;
    for (const name of [ENFORCED, REPORTED]) {
      const value = changed.headers[name];
      if (value !== undefined) headers[name] = value;
    }
  }

  #needsOf(parts: PreparedParts | undefined): readonly PolicyNeed[] {
    if (!parts) return NOTHING;
    let needs = this.#needs.get(parts);
    if (!needs) this.#needs.set(parts, (needs = parts.keys.flatMap((key) => this.#sent.needs[key] ?? [])));
    return needs;
  }

  #extend(policy: string, needs: readonly PolicyNeed[], page: string, nonce: string | undefined): string {
    const { allowed } = this.#sent.own;
    if (nonce !== undefined) return withSources(extendPolicy(policy, needs, page, true).value, allowed);
    let known = this.#extended.get(needs);
    if (!known) this.#extended.set(needs, (known = new LRUCache({ max: TEXTS_KEPT })));
    const key = `${page} ${policy}`;
    let text = known.get(key);
    if (text === undefined)
      known.set(key, (text = withSources(extendPolicy(policy, needs, page).value, allowed)));
    return text;
  }
}

const NOTHING: readonly PolicyNeed[] = [];

/** In a trial the site's own collector would be told of things that were not stopped. */
function withoutReports(policy: string): string {
  return policy
    .split(';')
    .map((directive) => directive.trim())
    .filter((directive) => directive !== '' && !/^report-(?:uri|to)(?:\s|$)/i.test(directive))
    .join('; ');
}
