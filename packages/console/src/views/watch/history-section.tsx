import { useQuery } from '@tanstack/react-query';
import { Check, Clock, Minus, X } from 'lucide-react';
import { Link } from 'react-router';
import { hasFailed } from '../../api/failed';
import { watchHistoryQuery, type WatchHistory } from '../../api/watch';
import { LOCALE, say } from '../../texts/say';
import { WATCH } from '../../texts/watch';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { Empty, Failure, Loading } from '../../ui/states';
import { Section } from '../visits/section';

type Cell = WatchHistory['snippets'][number]['cells'][number];
type State = Cell['state'];

const LABELS: Record<State, string> = {
  well: WATCH.well,
  lost: WATCH.lost,
  waiting: WATCH.waiting,
  'left-out': WATCH.leftOut,
};

/** Signs that differ in shape, not in colour alone. */
const MARKS = { well: Check, lost: X, waiting: Clock, 'left-out': Minus } as const;
const LOOKS: Record<State, string> = {
  well: 'bg-good/15 text-good',
  lost: 'bg-danger text-paper',
  waiting: 'bg-signal/15 text-signal',
  'left-out': 'bg-paper text-muted',
};

const moment = new Intl.DateTimeFormat(LOCALE, { dateStyle: 'medium', timeStyle: 'short' });

/** A line for each snippet: how it stood after each round of visits. */
export function HistorySection({ site, host }: { site: string; host: string }) {
  const history = useQuery(watchHistoryQuery(site, host));
  if (history.isPending) return <Loading />;
  if (hasFailed(history)) return <Failure error={history.error} onRetry={() => void history.refetch()} />;
  const { rounds, snippets } = history.data;
  if (rounds.length === 0)
    return (
      <Empty
        title={WATCH.historyEmptyTitle}
        action={
          <Button asChild look="primary">
            <Link to={`/sites/${site}/check/browser`}>{WATCH.visitNow}</Link>
          </Button>
        }
      >
        {say(WATCH.historyEmpty, { host })}
      </Empty>
    );
  const shown = snippets.filter(({ cells }) => cells.some(({ state }) => state !== 'left-out'));
  const times = new Map(rounds.map(({ number, at }) => [number, moment.format(new Date(at))]));
  return (
    <Section title={WATCH.history} lead={WATCH.historyLead}>
      <div ref={showNewest} className="-mx-4 overflow-x-auto px-4">
        <table className="text-sm">
          <tbody>
            {shown.map(({ snippet, name, cells }) => {
              const byRound = new Map(cells.map((cell) => [cell.round, cell]));
              const now = byRound.get(rounds.at(-1)!.number);
              return (
                <tr key={snippet} className="align-middle">
                  <th
                    scope="row"
                    className="sticky left-0 max-w-56 bg-surface py-1 pr-4 text-left font-medium sm:max-w-none"
                  >
                    {snippet === '' ? (
                      name
                    ) : (
                      <Link to={`/sites/${site}/snippets/${snippet}`} className="hover:underline">
                        {name}
                      </Link>
                    )}
                    {now?.state === 'lost' && (
                      <span className="line-clamp-3 max-w-72 text-[13px] font-normal text-danger">
                        {now.message}
                      </span>
                    )}
                  </th>
                  <td className="py-1">
                    <span className="flex gap-0.5">
                      {rounds.map(({ number }) => {
                        const cell = byRound.get(number);
                        return cell ? (
                          <Mark key={number} site={site} cell={cell} when={times.get(number)!} />
                        ) : (
                          <span key={number} className="size-6" />
                        );
                      })}
                    </span>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <Legend />
    </Section>
  );
}

/** Where there is not room for all, the newest are in sight. */
function showNewest(node: HTMLElement | null): void {
  if (node) node.scrollLeft = node.scrollWidth;
}

function Mark({ site, cell, when }: { site: string; cell: Cell; when: string }) {
  const { state, round, message } = cell;
  const words = say(WATCH.since, { state: LABELS[state], round: String(round), when, message });
  const Sign = MARKS[state];
  return (
    <Link
      to={`/sites/${site}/check/browser/${round}`}
      aria-label={words}
      title={words}
      className={cn('grid size-6 place-items-center rounded-sm', LOOKS[state])}
    >
      <Sign className="size-3.5" aria-hidden />
    </Link>
  );
}

function Legend() {
  return (
    <ul
      aria-label={WATCH.legend}
      className="mt-3 flex flex-wrap gap-x-4 gap-y-1 border-t border-line pt-3 text-[13px] text-muted"
    >
      {(Object.keys(MARKS) as State[]).map((state) => {
        const Sign = MARKS[state];
        return (
          <li key={state} className="flex items-center gap-1.5">
            <span className={cn('grid size-5 place-items-center rounded-sm', LOOKS[state])}>
              <Sign className="size-3" aria-hidden />
            </span>
            {LABELS[state]}
          </li>
        );
      })}
    </ul>
  );
}
