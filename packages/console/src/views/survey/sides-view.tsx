import { ApiError } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { hasFailed } from '../../api/failed';
import { sidesQuery } from '../../api/surveys';
import { useSiteKey } from '../../layout/site-layout';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Empty, Failure, Loading } from '../../ui/states';

const NOT_FOUND = 404;

/** What Pragmatica adds to the pages, and what somebody else does to them before they reach visitors. */
export function SidesView() {
  const site = useSiteKey();
  const sides = useQuery(sidesQuery(site));
  if (sides.isPending) return <Loading />;
  if (sides.error instanceof ApiError && sides.error.status === NOT_FOUND)
    return <Empty title={SURVEY.sidesNoneTitle}>{SURVEY.sidesNone}</Empty>;
  if (hasFailed(sides)) return <Failure error={sides.error} onRetry={() => void sides.refetch()} />;
  const { ours, lines, public: visitors, origin } = sides.data;
  return (
    <div className="space-y-4">
      <p className="text-sm text-muted">
        {SURVEY.sidesIntro} {say(SURVEY.sidesOf, { public: visitors, origin })}
      </p>
      <div className="grid items-start gap-4 lg:grid-cols-2">
        <section className="rounded-xl border border-line bg-surface p-4 sm:p-5">
          <h2>{SURVEY.sidesOthers}</h2>
          <ul className="mt-2 space-y-2 text-sm">
            {lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
        <section className="rounded-xl border border-line bg-surface p-4 sm:p-5">
          <h2>{SURVEY.sidesOurs}</h2>
          {ours.length === 0 && <p className="mt-2 text-sm text-muted">{SURVEY.sidesOurNone}</p>}
          <ul className="mt-2 divide-y divide-line text-sm">
            {ours.map(({ snippet, name, pages }) => (
              <li key={snippet} className="flex flex-wrap justify-between gap-x-3 py-1.5">
                <Link to={`/sites/${site}/snippets/${snippet}`} className="font-medium hover:underline">
                  {name}
                </Link>
                <span className="text-muted tabular-nums">{say(SURVEY.sidesOurPages, { pages })}</span>
              </li>
            ))}
          </ul>
        </section>
      </div>
    </div>
  );
}
