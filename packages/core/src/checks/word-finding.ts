import { catalogue, formatMessage, sayAllDeferred, type Params, type TextTree } from '../texts/index.js';
import type { FindingTexts } from './check.js';
import type { Finding, UnwordedFinding } from './finding.js';
import { CHECKS } from './registry.js';

/** What is said where a check itself fails. */
const UNFINISHED = catalogue('core.unfinished-check', {
  title: '“{check}” could not be checked for {more, plural, =0 {{names}} other {{names} and # more}}',
  advice:
    'Something in it cannot be worked out ({cause}). Look at its hours, pages and code; everything else was checked.',
});

const byId = new Map(CHECKS.map((check) => [check.id, check]));

/** What the checks say, as they have it, in the language of the moment. */
const TEXTS = catalogue(
  'checks',
  Object.fromEntries(
    CHECKS.map(({ id, title, why, roles, messages }) => [
      id,
      { title, why, roles, messages: messages as Readonly<Record<string, FindingTexts & TextTree>> },
    ]),
  ),
);

/** @returns undefined for an id that no check has */
export function findCheck(id: string) {
  return byId.get(id);
}

/** What a check looks for and why, in the language of the moment. @param id - of a check that there is */
export function checkAbout(id: string): { readonly title: string; readonly why: string } {
  const { title, why } = TEXTS[id]!;
  return { title, why };
}

/**
 * A finding in the words of its check's messages.
 *
 * @param locale - in which numbers, lists and dates are written
 */
export function wordFinding<More extends UnwordedFinding>(
  finding: More,
  locale?: string,
): Omit<More, keyof Finding> & Finding {
  const { check: id, evidence, fix } = finding;
  // Names of parts, places and days among them are in words, too.
  const message = sayAllDeferred(finding.message, locale);
  const check = TEXTS[id]!;
  const texts: FindingTexts = check.messages[message.id] ?? UNFINISHED;
  const say = (pattern: string, own: Params = {}): string =>
    formatMessage(pattern, { ...message.params, ...own }, locale);
  return {
    ...finding,
    message,
    title: say(texts.title),
    why: check.why,
    advice: say(texts.advice),
    evidence: evidence.map((spot) => ({
      ...spot,
      note: say(check.roles[spot.role]!, sayAllDeferred(spot.params, locale)),
    })),
    ...(fix ? { fix: { title: say(texts.fix!), changes: fix.changes } } : {}),
  };
}
