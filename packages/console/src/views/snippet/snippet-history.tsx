import type { SnippetVersion } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { Undo2 } from 'lucide-react';
import { Link } from 'react-router';
import { historyQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { ACTIVITY } from '../../texts/activity';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

interface SnippetHistoryProps {
  readonly site: string;
  readonly snippet: string;
  /** Puts how it was into the form; nothing is saved by that. */
  readonly onTake: (version: SnippetVersion) => void;
}

/** The releases that changed the snippet. */
export function SnippetHistory({ site, snippet, onTake }: SnippetHistoryProps) {
  const history = useQuery(historyQuery(site, snippet));
  return (
    <section aria-label={SNIPPET.history} className="max-w-4xl space-y-3">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2>{SNIPPET.history}</h2>
        <Button asChild look="quiet" size="small">
          <Link to={`/sites/${site}/activity?snippet=${snippet}`}>{ACTIVITY.allChanges}</Link>
        </Button>
      </div>
      {history.isPending && <Loading lines={2} label={SNIPPET.loadingHistory} />}
      {history.isError && <Failure error={history.error} onRetry={() => void history.refetch()} />}
      {history.data?.length === 0 && <p className="text-sm text-muted">{SNIPPET.wasNeverPublished}</p>}
      <ol className="space-y-2">
        {history.data?.map((version) => (
          <li
            key={version.release}
            className="flex flex-wrap items-start gap-3 rounded-xl border border-line bg-surface p-4"
          >
            <div className="min-w-52 flex-1 text-sm">
              <p>
                <span className="font-medium">
                  {say(SNIPPET.releaseRelease, { release: version.release })}
                </span>{' '}
                <span className="text-muted">
                  {version.author}, <Time at={version.createdAt} /> · {version.message}
                </span>
              </p>
              <ul className="mt-1 list-disc space-y-0.5 pl-4">
                {version.changes.map((change) => (
                  <li key={change}>{change}</li>
                ))}
              </ul>
            </div>
            {version.snippet && (
              <Button size="small" onClick={() => onTake(version)}>
                <Undo2 className="size-3.5" aria-hidden /> {SNIPPET.fillWasThen}
              </Button>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
