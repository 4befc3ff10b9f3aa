import { CircleAlert, CircleCheck, LoaderCircle, X } from 'lucide-react';
import { Link } from 'react-router';
import type { RoundDetail } from '../../api/visits';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';
import { Section } from './section';

type Visit = RoundDetail['visits'][number];

const FAILURES = {
  crashed: VISITS.crashed,
  timeout: VISITS.timeout,
  unreachable: VISITS.unreachable,
} as const;

/** All visits of a round, each with who came and what became of it. */
export function VisitList({
  site,
  round,
  visits,
}: {
  site: string;
  round: number;
  visits: readonly Visit[];
}) {
  return (
    <Section title={VISITS.visits}>
      <ul className="-my-2 divide-y divide-line text-sm">
        {visits.map((visit) => (
          <li key={visit.number} className="flex flex-wrap items-center gap-x-3 gap-y-0.5 py-2">
            <State visit={visit} />
            <Link
              to={`/sites/${site}/check/browser/${round}/${visit.number}`}
              className="font-medium hover:underline"
            >
              {visit.title}
            </Link>
            <span className="font-mono text-xs text-muted">{visit.path}</span>
            <span className="ml-auto text-[13px] text-muted">
              {visit.failure === null
                ? visit.state === 'done' && say(VISITS.missed, { count: visit.missed })
                : FAILURES[visit.failure]}
            </span>
          </li>
        ))}
      </ul>
    </Section>
  );
}

function State({ visit: { state, missed } }: { visit: Visit }) {
  if (state === 'running') return <LoaderCircle className="size-4 animate-spin text-muted" aria-hidden />;
  if (state === 'waiting') return <span className="size-4" aria-hidden />;
  if (state === 'failed') return <CircleAlert className="size-4 text-danger" aria-hidden />;
  return missed > 0 ? (
    <X className="size-4 text-danger" aria-hidden />
  ) : (
    <CircleCheck className="size-4 text-good" aria-hidden />
  );
}
