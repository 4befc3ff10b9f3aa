import type { SeenLoad } from '../../api/visits';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';
import { cn } from '../../ui/cn';
import { fileOf } from './screen-section';
import { ownerName } from './owner-name';

interface TimelineProps {
  readonly load: SeenLoad;
  readonly names: ReadonlyMap<string, string>;
  readonly colours: ReadonlyMap<string, string>;
}

/** When each request began and ended, in the colour of the snippet that asked. */
export function RequestTimeline({ load, names, colours }: TimelineProps) {
  const { requests, endMs } = load;
  if (requests.length === 0) return <p className="text-sm text-muted">{VISITS.noRequests}</p>;
  const last = Math.max(endMs, 1, ...requests.map((one) => one.endMs ?? 0));
  return (
    <ol className="text-[13px]">
      {requests.map(({ url, status, failure, kind, startMs, endMs: end, owner }, index) => {
        const colour = typeof owner.snippet === 'string' ? colours.get(owner.snippet) : undefined;
        const isBad = failure !== null || (status ?? 0) >= 400;
        const until = end ?? last;
        return (
          <li
            key={index}
            title={url}
            className="grid grid-cols-[minmax(0,1fr)_3rem] items-center gap-x-3 border-b border-line py-1 last:border-0 sm:grid-cols-[minmax(0,15rem)_3.5rem_minmax(0,9rem)_1fr]"
          >
            <span className="truncate" translate="no">
              {new URL(url).pathname === '/' ? '/' : fileOf(url)}{' '}
              <span className="text-muted">{new URL(url).hostname}</span>
            </span>
            <span className={cn('tabular-nums', isBad ? 'font-medium text-danger' : 'text-muted')}>
              {failure ?? status ?? kind}
            </span>
            <span className="hidden items-center gap-1.5 truncate sm:flex">
              <span
                className={cn('size-2 shrink-0 rounded-full', colour === undefined && 'bg-line-strong')}
                style={colour === undefined ? {} : { background: colour }}
                aria-hidden
              />
              {ownerName(owner, names)}
            </span>
            <span className="relative col-span-2 h-3 rounded-sm bg-line/40 sm:col-span-1">
              <span
                className={cn('absolute top-0 h-3 rounded-sm', colour === undefined && 'bg-line-strong')}
                style={{
                  left: `${(100 * startMs) / last}%`,
                  width: `${Math.max(0.6, (100 * (until - startMs)) / last)}%`,
                  ...(colour === undefined ? {} : { background: colour }),
                }}
              >
                <span className="sr-only">{say(VISITS.ms, { ms: until - startMs })}</span>
              </span>
            </span>
          </li>
        );
      })}
    </ol>
  );
}
