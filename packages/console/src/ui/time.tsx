import { LOCALE } from '../texts/say';

const formatter = new Intl.DateTimeFormat(LOCALE, { dateStyle: 'medium', timeStyle: 'short' });

/** A moment in the reader's own zone. */
export function Time({ at, className }: { at: string; className?: string }) {
  return (
    <time dateTime={at} className={className}>
      {formatter.format(new Date(at))}
    </time>
  );
}
