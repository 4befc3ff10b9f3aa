const formatter = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

/** A moment in the reader's own zone. */
export function Time({ at, className }: { at: string; className?: string }) {
  return (
    <time dateTime={at} className={className}>
      {formatter.format(new Date(at))}
    </time>
  );
}
