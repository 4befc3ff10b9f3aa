import { SURVEY_TEXTS } from '../texts/survey.js';
import { PAGE_TRAITS, type PageReading, type PageTrait } from './types.js';
import { lazyTexts } from '../texts/lazy-texts.js';

/** What people call them, and why they matter. */
export const TRAIT_WORDS: Readonly<Record<PageTrait, { readonly name: string; readonly why: string }>> = {
  policy: lazyTexts({ name: () => SURVEY_TEXTS.traitPolicy, why: () => SURVEY_TEXTS.whyPolicy }),
  'nonce-policy': lazyTexts({ name: () => SURVEY_TEXTS.traitNonce, why: () => SURVEY_TEXTS.whyNonce }),
  'legacy-encoding': lazyTexts({ name: () => SURVEY_TEXTS.traitLegacy, why: () => SURVEY_TEXTS.whyLegacy }),
  'no-encoding': lazyTexts({
    name: () => SURVEY_TEXTS.traitNoEncoding,
    why: () => SURVEY_TEXTS.whyNoEncoding,
  }),
  'late-encoding': lazyTexts({
    name: () => SURVEY_TEXTS.traitLateEncoding,
    why: () => SURVEY_TEXTS.whyLateEncoding,
  }),
  quirks: lazyTexts({ name: () => SURVEY_TEXTS.traitQuirks, why: () => SURVEY_TEXTS.whyQuirks }),
  'no-language': lazyTexts({
    name: () => SURVEY_TEXTS.traitNoLanguage,
    why: () => SURVEY_TEXTS.whyNoLanguage,
  }),
  'canonical-elsewhere': lazyTexts({
    name: () => SURVEY_TEXTS.traitCanonical,
    why: () => SURVEY_TEXTS.whyCanonical,
  }),
};

/** Where a declaration in the page still counts (HTML Standard 4.2.5.4). */
const DECLARED_WITHIN = 1024;

/**
 * What is unusual about a page.
 *
 * @param metaCharsetAt - where its own declaration of the encoding stands, if it has one
 */
export function pageTraits(
  { policies, charset, language, skeleton, canonical }: Omit<PageReading, 'traits' | 'items' | 'found'>,
  url: string,
  metaCharsetAt: number | undefined,
): PageTrait[] {
  const enforced = policies.filter(({ isReportOnly }) => !isReportOnly);
  const has: Readonly<Record<PageTrait, boolean>> = {
    policy: enforced.some(({ value }) => /(?:^|[\s;])(?:script-src|default-src)/i.test(value)),
    'nonce-policy': enforced.some(({ value }) => /'nonce-/i.test(value)),
    'legacy-encoding': charset.from !== 'not-declared' && charset.name !== 'utf-8',
    'no-encoding': charset.from === 'not-declared' && metaCharsetAt === undefined,
    'late-encoding': charset.from === 'not-declared' && (metaCharsetAt ?? 0) > DECLARED_WITHIN,
    quirks: !skeleton.startsWith('<!DOCTYPE'),
    'no-language': language === '',
    'canonical-elsewhere': canonical !== undefined && canonical !== withoutHash(url),
  };
  return PAGE_TRAITS.filter((trait) => has[trait]);
}

function withoutHash(url: string): string {
  return url.split('#', 1)[0]!;
}
