import { tokTypes, tokenizer } from 'acorn';
import type { FactsCache } from '../facts/index.js';
import { partNeeds, policyRequests, type OwnPolicy, type PolicyNeed } from '../policy/index.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';
import type { SeenSighting } from './gather.js';
import type { Sighting } from './sighting.js';
import { isVolatile } from './stable-code.js';

/** A policy for pages that have none, made of what a survey saw in them. */
export interface ProposedPolicy extends OwnPolicy {
  /** Why it is as it is, in words: a sentence each. */
  readonly reasons: readonly string[];
}

/** More hashes than this make a header that nobody can read, and that some servers refuse. */
const MAX_HASHES = 24;

/**
 * The strictest policy for scripts that lets in everything that the pages themselves bring, as far as a survey can see it: what
 * it cannot see, browsers report. What snippets need is no part of it.
 *
 * @param canMark - whether whatever sends the pages can write a new nonce into each
 */
export function proposeOwnPolicy(
  sightings: readonly (Sighting & { readonly seen: SeenSighting })[],
  memory: FactsCache,
  canMark: boolean,
): ProposedPolicy {
  // What waits for a consent tool to start it will run, too.
  const own = sightings.filter(
    ({ seen }) =>
      seen.others.pages > 0 && seen.states.some((state) => state === 'active' || state === 'inert-type'),
  );
  const scripts = own.filter(({ kind }) => kind === 'script');
  const needs = scripts.flatMap(({ code }) => partNeeds(code, code, memory));
  const inline = scripts.filter(({ code }) =>
    policyRequests(code).some(({ request }) => request === 'inline-script'),
  );
  const changing = inline.filter(({ code, seen }) => seen.others.pages > 1 && changes(code));
  const hashes = sources(needs, ['inline-script', 'handler']);
  const files = sources(needs, ['script']);
  const areHashed = changing.length === 0 && hashes.length <= MAX_HASHES;
  const ownFiles = distinct(
    scripts
      .filter(({ code }) => policyRequests(code).some(({ request }) => request === 'script'))
      .map(({ key }) => key),
  ).length;
  const isStrict = canMark && areHashed && ownFiles === 0;
  const isEmbedded = own.some(({ code }) => /^\s*<(?:object|embed)\b/i.test(code));
  return {
    isStrict,
    allowed: [],
    directives: {
      'script-src': isStrict
        ? hashes
        : [
            "'self'",
            ...files.filter((source) => source !== "'self'"),
            ...(areHashed ? hashes : ["'unsafe-inline'"]),
          ],
      ...(isEmbedded ? {} : { 'object-src': ["'none'"] }),
      'base-uri': ["'self'"],
    },
    reasons: [
      ...(isStrict ? [SURVEY_TEXTS.policyStrict] : []),
      ...(ownFiles > 0 ? [say(SURVEY_TEXTS.policyFiles, { files: ownFiles })] : []),
      ...(changing.length > 0 ? [say(SURVEY_TEXTS.policyChanging, { scripts: changing.length })] : []),
      ...(changing.length === 0 && hashes.length > MAX_HASHES
        ? [say(SURVEY_TEXTS.policyMany, { scripts: hashes.length })]
        : []),
    ],
  };
}

function sources(needs: readonly PolicyNeed[], requests: readonly PolicyNeed['request'][]): string[] {
  return distinct(
    needs.filter(({ request }) => requests.includes(request)).map(({ source }) => source),
  ).sort();
}

function distinct(list: readonly string[]): string[] {
  return [...new Set(list)];
}

/** Whether a script holds something that is another on each page or at each visit: its hash would not hold. */
function changes(code: string): boolean {
  return policyRequests(code).some(({ request, what }) => request === 'inline-script' && hasVolatile(what));
}

function hasVolatile(script: string): boolean {
  try {
    for (const token of tokenizer(script, { ecmaVersion: 'latest' })) {
      const { value } = token as typeof token & { readonly value: unknown };
      if (token.type === tokTypes.string && isVolatile(String(value))) return true;
      if (token.type === tokTypes.num && isVolatile(String(value))) return true;
    }
  } catch {
    // From here on it is no script.
  }
  return false;
}
