import { deviceName, rungTitle, whoWords, type Rung } from '@pragmatica/core';
import { X } from 'lucide-react';
import { Link } from 'react-router';
import type { RoundDetail } from '../../api/visits';
import { listed } from '../../texts/rich';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';

type Snippet = RoundDetail['summary']['snippets'][number];
type SeenAt = Snippet['problems'][number]['at'][number];
type Cause = Snippet['problems'][number]['cause'];

/** What kept snippets from the next rung: what, where, who can change it and how. */
export function ProblemList({
  site,
  round,
  snippets,
}: {
  site: string;
  round: number;
  snippets: readonly Snippet[];
}) {
  const wrong = snippets.filter(({ problems, intruder }) => problems.length > 0 || intruder !== null);
  if (wrong.length === 0) return null;
  return (
    <section aria-label={VISITS.problems} className="space-y-3">
      {wrong.map(({ snippet, name, problems, intruder }) => (
        <article key={snippet} className="rounded-xl border border-danger/40 bg-surface">
          <header className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-2.5">
            <X className="size-5 text-danger" aria-hidden />
            <h2 className="mr-auto text-base">{name}</h2>
            <Link
              to={`/sites/${site}/check/why?snippet=${snippet}&path=${encodeURIComponent(firstPath(problems, intruder))}`}
              className="text-sm text-primary hover:underline"
            >
              {VISITS.askWhy}
            </Link>
          </header>
          <div className="divide-y divide-line">
            {problems.map(({ rung, cause, at }) => (
              <Problem
                key={`${rung} ${cause.id} ${cause.message}`}
                site={site}
                round={round}
                rung={rung}
                cause={cause}
                at={at}
              />
            ))}
            {intruder && (
              <div className="space-y-1 px-4 py-3 text-sm">
                <p className="font-medium">{say(VISITS.intruder, { name })}</p>
                <p>{intruder.message}</p>
                <p className="font-medium">{intruder.advice}</p>
                <Places site={site} round={round} at={intruder.at} />
              </div>
            )}
          </div>
        </article>
      ))}
    </section>
  );
}

function firstPath(problems: Snippet['problems'], intruder: Snippet['intruder']): string {
  return problems[0]?.at[0]?.path ?? intruder?.at[0]?.path ?? '/';
}

interface ProblemProps {
  readonly site: string;
  readonly round: number;
  readonly rung: Rung;
  readonly cause: Cause;
  readonly at: readonly SeenAt[];
}

function Problem({ site, round, rung, cause, at }: ProblemProps) {
  return (
    <div className="space-y-1.5 px-4 py-3 text-sm">
      <p>
        <span className="mr-2 rounded-full bg-danger-soft px-2 py-0.5 text-xs font-medium text-danger">
          {rungTitle(rung)}
        </span>
        {cause.message}
      </p>
      <CauseLines cause={cause} />
      <Places site={site} round={round} at={at} />
    </div>
  );
}

/** What to do, who can do it, and what shows that it is so. */
export function CauseLines({ cause }: { cause: Cause }) {
  return (
    <>
      {cause.advice !== '' && <p className="font-medium">{cause.advice}</p>}
      <p className="text-[13px] text-muted">{say(VISITS.whoCan, { who: whoWords(cause.who) })}</p>
      {cause.evidence.length > 0 && (
        <ul className="space-y-0.5 font-mono text-xs break-all text-muted">
          {cause.evidence.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </>
  );
}

const SHOWN = 6;

/** Where something was seen, each a link to its visit. */
export function Places({ site, round, at }: { site: string; round: number; at: readonly SeenAt[] }) {
  const places = [...new Map(at.map((one) => [`${one.path} ${one.device}`, one])).values()].slice(0, SHOWN);
  return (
    <p className="text-[13px] text-muted">
      {VISITS.seenOn}{' '}
      {listed(
        places.map(({ visit, path, device }) => ({
          key: `${path} ${device}`,
          element: (
            <Link
              to={`/sites/${site}/check/browser/${round}/${visit}`}
              className="text-primary hover:underline"
            >
              {path} ({deviceName(device)})
            </Link>
          ),
        })),
      )}
    </p>
  );
}
