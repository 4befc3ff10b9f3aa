import { Link } from 'react-router';
import type { RoundDetail } from '../../api/visits';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';
import { Section } from './section';
import { whoName } from './owner-name';

type Weight = RoundDetail['summary']['weights'][number];

/** What each one costs, as bars. */
export function WeightSection({ site, weights }: { site: string; weights: readonly Weight[] }) {
  if (weights.length === 0) return null;
  const most = Math.max(1, ...weights.map(({ bytes }) => bytes));
  return (
    <Section title={VISITS.weight} lead={VISITS.weightLead}>
      <ul className="space-y-2 text-sm">
        {weights.map(({ snippet, name, requests, bytes, blockingMs }) => (
          <li key={String(snippet)} className="grid grid-cols-[minmax(7rem,11rem)_1fr] items-center gap-3">
            <span className="truncate font-medium">{whoName({ snippet, name })}</span>
            <span className="flex flex-wrap items-center gap-x-3">
              <span
                className={snippet === null ? 'h-3 rounded-sm bg-line-strong' : 'h-3 rounded-sm bg-primary'}
                style={{ width: `${Math.max(1, (45 * bytes) / most)}%` }}
                aria-hidden
              />
              <span className="text-[13px] text-muted tabular-nums">
                {say(VISITS.kb, { kb: (bytes / 1_000).toFixed(1) })},{' '}
                {say(VISITS.requests, { count: requests })}
                {blockingMs > 0 && `, ${say(VISITS.blocks, { ms: blockingMs })}`}
              </span>
            </span>
          </li>
        ))}
      </ul>
      <Link
        to={`/sites/${site}/check/weight`}
        className="mt-3 inline-block text-sm text-primary hover:underline"
      >
        {VISITS.weighThem}
      </Link>
    </Section>
  );
}
