import type { SeenLoad } from '../../api/visits';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';
import { cn } from '../../ui/cn';
import { fileOf } from './screen-section';
import { Section } from './section';
import { whoName } from './owner-name';

type Ran = NonNullable<NonNullable<SeenLoad['judged']>['ran']>;

/** The scripts of a page load in the order in which they ran, in the colour of the snippet whose they are. */
export function RanOrder({ ran, colours }: { ran: Ran; colours: ReadonlyMap<string, string> }) {
  if (ran.length === 0) return null;
  return (
    <Section title={VISITS.ran} lead={VISITS.ranLead}>
      <ol className="gap-x-6 text-sm sm:columns-2">
        {ran.map(({ snippet, name, file, count }, index) => {
          const colour = typeof snippet === 'string' ? colours.get(snippet) : undefined;
          return (
            <li key={index} className="flex min-w-0 break-inside-avoid items-baseline gap-2 py-0.5">
              <span className="w-6 shrink-0 text-right text-[13px] text-muted tabular-nums">{index + 1}</span>
              <span
                className={cn('size-2 shrink-0 rounded-full', colour === undefined && 'bg-line-strong')}
                style={colour === undefined ? {} : { backgroundColor: colour }}
                aria-hidden
              />
              <span className="truncate">
                <span className="font-medium">{whoName({ snippet, name })}</span>{' '}
                <span className="text-muted" title={file ?? undefined}>
                  {file === null ? VISITS.inPage : fileOf(file)}
                  {count > 1 && ` · ${say(VISITS.times, { count })}`}
                </span>
              </span>
            </li>
          );
        })}
      </ol>
    </Section>
  );
}
