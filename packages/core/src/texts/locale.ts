/** Lists without a comma before "and", days before months, 24 hours. */
export const DEFAULT_LOCALE = 'en-GB';

/**
 * English as it is written where a reader lives: the language of all texts, with numbers, dates and times of the
 * region.
 *
 * @param wanted - BCP 47 tags, the best one first; what is no tag is passed over
 */
export function readerLocale(wanted: readonly string[]): string {
  for (const tag of wanted) {
    try {
      const { region } = new Intl.Locale(tag).maximize();
      if (region !== undefined) return `en-${region}`;
    } catch {
      continue;
    }
  }
  return DEFAULT_LOCALE;
}
