import type { ReleaseSummary } from '@pragmatica/contract';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { ChevronRight, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { hasFailed } from '../../api/failed';
import { useRestore } from '../../api/mutations';
import { diffQuery, releasesQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { MoreButton } from '../../ui/more-button';
import { Empty, Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';
import { AskReleaseButton } from '../approvals/ask-release-button';
import { ApprovalsSection } from '../approvals/approvals-section';
import { ChangeList } from '../strip/change-list';
import { RELEASES } from '../../texts/releases';
import { say } from '../../texts/say';

export function ReleasesView() {
  const site = useSiteKey();
  const releases = useInfiniteQuery(releasesQuery(site));
  const shown = releases.data?.pages.flatMap(({ items }) => items);
  return (
    <div className="max-w-4xl space-y-4">
      <div>
        <h1>{RELEASES.releases}</h1>
        <p className="text-sm text-muted">{RELEASES.everythingWasEver}</p>
      </div>
      <ApprovalsSection site={site} />
      {releases.isPending && <Loading />}
      {releases.isError && <Failure error={releases.error} onRetry={() => void releases.refetch()} />}
      {shown?.length === 0 && (
        <Empty
          title={RELEASES.nothingWasPublished}
          action={
            <Button asChild>
              <Link to="../strip">{RELEASES.toDraft}</Link>
            </Button>
          }
        >
          {RELEASES.firstReleaseAppears}
        </Empty>
      )}
      <ol className="space-y-2.5">
        {shown?.map((release) => (
          <ReleaseRow key={release.number} site={site} release={release} />
        ))}
      </ol>
      <MoreButton list={releases}>{RELEASES.earlier}</MoreButton>
    </div>
  );
}

function ReleaseRow({ site, release }: { site: string; release: ReleaseSummary }) {
  const [isOpen, setOpen] = useState(false);
  const isLive = release.environments.includes('live');
  return (
    <li className="rounded-xl border border-line bg-surface">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 p-4">
        <span className="grid size-9 shrink-0 place-items-center rounded-full bg-paper font-mono text-sm font-semibold">
          {release.number}
        </span>
        <div className="min-w-48 flex-1">
          <p className="font-medium">{release.message}</p>
          <p className="text-[13px] text-muted">
            {release.author}, <Time at={release.createdAt} />{' '}
            {say(RELEASES.snippetsSnippets, { snippets: release.snippets })}
          </p>
          {release.forced && (
            <p className="mt-1 text-[13px] text-signal">
              {say(RELEASES.publishedSpiteFindings, {
                findings: release.forced.findings.map(({ title }) => title).join('; '),
                reason: release.forced.reason,
              })}
            </p>
          )}
        </div>
        {release.environments.map((environment) => (
          <span
            key={environment}
            className="rounded-full bg-primary-soft px-2 py-0.5 text-xs font-medium text-primary"
          >
            {environment}
          </span>
        ))}
        {!isLive && <AskReleaseButton site={site} release={release} />}
        {!isLive && (
          <PutBackButton
            site={site}
            release={release.number}
            isFromStaging={release.environments.includes('staging')}
          />
        )}
      </div>
      <details
        className="border-t border-line px-4 py-2 text-sm"
        onToggle={(event) => setOpen(event.currentTarget.open)}
      >
        <summary className="flex list-none items-center gap-1 text-muted">
          <ChevronRight className={isOpen ? 'size-4 rotate-90' : 'size-4'} aria-hidden />{' '}
          {RELEASES.whatChanged}
        </summary>
        {isOpen && <Changes site={site} from={release.number - 1} to={release.number} />}
      </details>
    </li>
  );
}

function Changes({ site, from, to }: { site: string; from: number; to: number }) {
  const diff = useQuery({ ...diffQuery(site, String(from), String(to)), enabled: from > 0 });
  if (from === 0) return <p className="py-2">{RELEASES.firstReleaseEverything}</p>;
  if (diff.isPending) return <Loading lines={1} />;
  if (hasFailed(diff)) return <Failure error={diff.error} />;
  return diff.data.changes.length > 0 ? (
    <ChangeList changes={diff.data.changes} />
  ) : (
    <p className="py-2">{RELEASES.nothingSameOne}</p>
  );
}

interface PutBackProps {
  readonly site: string;
  readonly release: number;
  /** It was tried there, and goes on from there. */
  readonly isFromStaging: boolean;
}

function PutBackButton({ site, release, isFromStaging }: PutBackProps) {
  const [isOpen, setOpen] = useState(false);
  const toast = useToast();
  const restore = useRestore(site);
  const diff = useQuery({ ...diffQuery(site, 'live', String(release)), enabled: isOpen });
  return (
    <>
      <Button
        size="small"
        needs="publish"
        look={isFromStaging ? 'primary' : 'plain'}
        onClick={() => setOpen(true)}
      >
        {isFromStaging ? (
          RELEASES.putLive
        ) : (
          <>
            <Undo2 className="size-3.5" aria-hidden /> {RELEASES.putBack}
          </>
        )}
      </Button>
      <Dialog
        title={say(isFromStaging ? RELEASES.putLiveTitle : RELEASES.putReleaseRelease, { release })}
        description={isFromStaging ? RELEASES.asOnStaging : RELEASES.allVisitorsOnce}
        isOpen={isOpen}
        onOpenChange={setOpen}
      >
        {diff.isPending ? <Loading lines={2} /> : <ChangeList changes={diff.data?.changes ?? []} />}
        <DialogActions leave={RELEASES.leave}>
          <Button
            look="signal"
            needs="publish"
            isBusy={restore.isPending}
            onClick={() =>
              restore.run({ environment: 'live', release }, () => {
                toast({
                  tone: 'done',
                  title: say(isFromStaging ? RELEASES.isLiveNow : RELEASES.releaseReleaseLive, { release }),
                  text: RELEASES.draftWasNot,
                });
                setOpen(false);
              })
            }
          >
            {isFromStaging ? RELEASES.confirmPutLive : RELEASES.confirmPutBack}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
