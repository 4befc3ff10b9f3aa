import { LOCALE } from '../texts/say';

const formatter = new Intl.DateTimeFormat(LOCALE, { dateStyle: 'medium', timeStyle: 'short' });

/** A moment in the reader's own zone, in words. */
export function timeWords(at: string): string {
  return formatter.format(new Date(at));
}

/** The same, as a browser knows what it is. */
export function Time({ at, className }: { at: string; className?: string }) {
  return (
    <time dateTime={at} className={className}>
      {timeWords(at)}
    </time>
  );
}
