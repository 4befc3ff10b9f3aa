import { catalogue } from './catalogue.js';
import { DEFAULT_LOCALE } from './locale.js';
import { sayIn } from './say.js';

const TEXTS = catalogue('core.bytes', {
  kilobytes: '{size, number} kB',
  megabytes: '{size, number} MB',
  gigabytes: '{size, number} GB',
});

/**
 * A number of bytes as people read it, in thousands, millions or billions.
 *
 * @param locale - in which numbers are written
 */
export function byteWords(bytes: number, locale = DEFAULT_LOCALE): string {
  const say = sayIn(locale);
  if (bytes < 1e6) return say(TEXTS.kilobytes, { size: Math.ceil(bytes / 1e3) });
  if (bytes < 1e9) return say(TEXTS.megabytes, { size: tenths(bytes / 1e6) });
  return say(TEXTS.gigabytes, { size: tenths(bytes / 1e9) });
}

function tenths(value: number): number {
  return Math.round(value * 10) / 10;
}
