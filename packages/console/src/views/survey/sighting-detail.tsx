import { fileWords } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { hasFailed } from '../../api/failed';
import { useHeedSighting } from '../../api/mutations';
import { sightingQuery, type SightingDetailData } from '../../api/surveys';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { Button } from '../../ui/button';
import { Failure, Loading } from '../../ui/states';
import { AdoptDialog } from './adopt-dialog';
import { AlteredCode } from './altered-code';
import { IgnoreDialog } from './ignore-dialog';

/** One sighting in full: its code as it stands in the page, where it is, and what can be done about it. */
export function SightingDetail({ site, id }: { site: string; id: number }) {
  const sighting = useQuery(sightingQuery(site, id));
  if (sighting.isPending)
    return (
      <div className="px-4 pb-4">
        <Loading lines={2} />
      </div>
    );
  if (hasFailed(sighting))
    return (
      <div className="px-4 pb-4">
        <Failure error={sighting.error} onRetry={() => void sighting.refetch()} />
      </div>
    );
  return <Detail site={site} sighting={sighting.data} />;
}

function Detail({ site, sighting }: { site: string; sighting: SightingDetailData }) {
  const [dialog, setDialog] = useState<'adopt' | 'ignore'>();
  const heed = useHeedSighting(site);
  const { standing, match, adopted, ignored, ourCode } = sighting;
  const canAdopt = match === null && adopted === null;
  return (
    <div className="space-y-3 px-4 pb-4 sm:pl-11">
      {standing !== 'ours' && <p className="text-sm">{sighting.removal}</p>}
      <dl className="grid gap-x-4 gap-y-1 text-sm sm:grid-cols-[8rem_minmax(0,1fr)]">
        {match && (
          <Fact name={SURVEY.managedBy}>
            <Link className="text-primary underline" to={`/sites/${site}/snippets/${match.snippet}`}>
              {match.snippet}
            </Link>
          </Fact>
        )}
        {adopted && (
          <Fact name={SURVEY.adoptedAs}>
            <Link className="text-primary underline" to={`/sites/${site}/snippets/${adopted.snippet}`}>
              {adopted.snippet}
            </Link>
          </Fact>
        )}
        {sighting.accounts.length > 0 && (
          <Fact name={SURVEY.accounts}>
            <span className="font-mono text-xs">{sighting.accounts.join('  ')}</span>
          </Fact>
        )}
        {sighting.loads.length > sighting.files.length && (
          <Fact name={SURVEY.loads}>
            <span className="font-mono text-xs [overflow-wrap:anywhere]">{sighting.loads.join('  ')}</span>
          </Fact>
        )}
        {sighting.files.map((file) => (
          <Fact key={file.address} name={SURVEY.file}>
            <span className="font-mono text-xs [overflow-wrap:anywhere]">{file.address}</span>{' '}
            <span className="text-muted">{fileWords(file)}</span>
          </Fact>
        ))}
        <Fact name={SURVEY.whereItIs}>
          <span className="font-mono text-xs [overflow-wrap:anywhere]">{sighting.examples.join('  ')}</span>{' '}
          {sighting.pages > sighting.examples.length && (
            <Link
              className="text-[13px] text-primary underline"
              to={`/sites/${site}/survey/pages?sighting=${sighting.id}`}
            >
              {SURVEY.allItsPages}
            </Link>
          )}
        </Fact>
      </dl>
      {ourCode !== null && <AlteredCode ours={ourCode} theirs={sighting.code} />}
      <Excerpt sighting={sighting} />
      {ignored && <p className="text-sm text-muted">{say(SURVEY.ignoredBy, ignored)}</p>}
      <div className="flex flex-wrap gap-2">
        {canAdopt && (
          <Button look="primary" needs="edit" size="small" onClick={() => setDialog('adopt')}>
            {SURVEY.adopt}
          </Button>
        )}
        {standing !== 'ours' &&
          (ignored ? (
            <Button size="small" needs="edit" isBusy={heed.isPending} onClick={() => heed.run(sighting.id)}>
              {SURVEY.heed}
            </Button>
          ) : (
            <Button size="small" needs="edit" onClick={() => setDialog('ignore')}>
              {SURVEY.ignore}
            </Button>
          ))}
      </div>
      <AdoptDialog
        key={`adopt ${sighting.id}`}
        site={site}
        sighting={sighting}
        isOpen={dialog === 'adopt'}
        onOpenChange={(is) => setDialog(is ? 'adopt' : undefined)}
      />
      <IgnoreDialog
        site={site}
        sighting={sighting}
        isOpen={dialog === 'ignore'}
        onOpenChange={(is) => setDialog(is ? 'ignore' : undefined)}
      />
    </div>
  );
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-muted">{name}</dt>
      <dd className="min-w-0">{children}</dd>
    </>
  );
}

/** The code where it stands, with a little of what is around it. It is text here, and never run. */
function Excerpt({ sighting: { before, code, after, firstPath } }: { sighting: SightingDetailData }) {
  return (
    <figure className="overflow-hidden rounded-lg border border-line bg-raised">
      <figcaption className="border-b border-line px-3 py-1.5 text-[13px] text-muted">
        {say(SURVEY.inPage, { page: firstPath })}
      </figcaption>
      <pre
        tabIndex={0}
        className="max-h-72 overflow-auto px-3 py-2 font-mono text-xs whitespace-pre-wrap [overflow-wrap:anywhere]"
      >
        <span className="text-muted">{before}</span>
        <mark className="rounded bg-signal-soft text-ink">{code}</mark>
        <span className="text-muted">{after}</span>
      </pre>
    </figure>
  );
}
