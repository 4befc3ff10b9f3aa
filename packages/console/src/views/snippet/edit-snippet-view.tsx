import type { SnippetResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { Archive, ArchiveRestore, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useEditSnippet, useRemoveSnippet, useSwitchSnippet } from '../../api/mutations';
import { snippetQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Failure, Loading } from '../../ui/states';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';
import { SnippetSwitch } from '../strip/snippet-switch';
import { CopyButton } from './copy-dialog';
import { firstPage } from './first-page';
import { RecipePanel } from './recipe-panel';
import { SnippetForm } from './snippet-form';
import { SnippetHistory } from './snippet-history';
import { toValue, type SnippetValue } from './snippet-value';
import { SNIPPET } from '../../texts/snippet';
import { rich } from '../../texts/rich';
import { say } from '../../texts/say';

export function EditSnippetView() {
  const site = useSiteKey();
  const key = useParams()['snippet']!;
  const toast = useToast();
  const snippet = useQuery({ ...snippetQuery(site, key), refetchOnWindowFocus: false });
  const edit = useEditSnippet(site, key);
  const [taken, setTaken] = useState<{ release: number; value: SnippetValue }>();
  if (snippet.isPending) return <Loading lines={5} label={SNIPPET.loadingSnippet} />;
  if (snippet.isError) return <Failure error={snippet.error} onRetry={() => void snippet.refetch()} />;
  const { data, etag } = snippet.data;
  return (
    <div className="space-y-4">
      <div className="flex max-w-4xl flex-wrap items-start gap-3">
        <div>
          <h1>{data.name}</h1>
          <p className="text-sm text-muted">
            {rich(data.state === 'archived' ? SNIPPET.archivedLastChangedBy : SNIPPET.lastChangedBy, {
              name: data.updatedBy,
              time: <Time at={data.updatedAt} />,
            })}
          </p>
        </div>
        {data.state !== 'archived' && (
          <div className="ml-auto flex flex-wrap items-center gap-2 pt-1.5 text-sm">
            <Button asChild size="small">
              <Link
                to={`/sites/${site}/check/why?snippet=${key}&path=${encodeURIComponent(firstPage(data.pages))}`}
              >
                {SNIPPET.whyNotShown}
              </Link>
            </Button>
            {data.state === 'on' ? SNIPPET.on : SNIPPET.off}
            <SnippetSwitch site={site} snippet={key} name={data.name} isOn={data.state === 'on'} />
          </div>
        )}
      </div>
      <RecipePanel site={site} snippet={data} etag={etag} />
      {taken && (
        <p role="status" className="max-w-4xl rounded-lg bg-signal-soft p-3 text-sm text-signal">
          {say(SNIPPET.filledWasRelease, { release: taken.release })}
          <button type="button" className="underline" onClick={() => setTaken(undefined)}>
            {SNIPPET.leave}
          </button>
        </p>
      )}
      <SnippetForm
        key={`${etag} ${taken?.release ?? ''}`}
        site={site}
        snippet={key}
        state={data.state}
        initial={taken?.value ?? toValue(data)}
        submitLabel={SNIPPET.saveDraft}
        isBusy={edit.isPending}
        error={edit.error}
        onSubmit={(body) =>
          edit.run({ etag, body }, () => {
            setTaken(undefined);
            toast({
              tone: 'done',
              title: SNIPPET.savedDraft,
              text: SNIPPET.visitorsGetWhen,
            });
          })
        }
      >
        <CopyButton site={site} snippets={[{ key, name: data.name }]} />
        <ArchiveButton site={site} snippet={key} name={data.name} state={data.state} />
        <RemoveButton site={site} snippet={key} name={data.name} etag={etag} />
      </SnippetForm>
      <SnippetHistory
        site={site}
        snippet={key}
        onTake={({ release, snippet: then }) => {
          if (!then) return;
          setTaken({ release, value: toValue(then) });
          window.scrollTo({ top: 0, behavior: 'smooth' });
        }}
      />
    </div>
  );
}

function ArchiveButton({
  site,
  snippet,
  name,
  state,
}: {
  site: string;
  snippet: string;
  name: string;
  state: SnippetResource['state'];
}) {
  const isArchived = state === 'archived';
  const change = useSwitchSnippet(site);
  const toast = useToast();
  const Icon = isArchived ? ArchiveRestore : Archive;
  return (
    <Button
      look="quiet"
      isBusy={change.isPending}
      onClick={() =>
        change.run({ snippet, state: isArchived ? 'off' : 'archived' }, () =>
          toast({
            tone: 'done',
            title: isArchived
              ? say(SNIPPET.nameOutArchive, { name })
              : say(SNIPPET.nameArchivedDraft, { name }),
            action: { label: SNIPPET.undo, run: () => change.run({ snippet, state }) },
          }),
        )
      }
    >
      <Icon className="size-4" aria-hidden /> {isArchived ? SNIPPET.takeOutArchive : SNIPPET.archive}
    </Button>
  );
}

function RemoveButton({
  site,
  snippet,
  name,
  etag,
}: {
  site: string;
  snippet: string;
  name: string;
  etag: string;
}) {
  const [isOpen, setOpen] = useState(false);
  const navigate = useNavigate();
  const remove = useRemoveSnippet(site, snippet);
  return (
    <>
      <Button look="quiet" className="text-danger" onClick={() => setOpen(true)}>
        <Trash2 className="size-4" aria-hidden /> {SNIPPET.remove}
      </Button>
      <Dialog
        title={say(SNIPPET.removeName, { name })}
        description={SNIPPET.leavesDraftCode}
        isOpen={isOpen}
        onOpenChange={setOpen}
      >
        <DialogActions leave={SNIPPET.keep}>
          <Button
            look="danger"
            isBusy={remove.isPending}
            onClick={() => remove.run({ etag }, () => navigate(`/sites/${site}/strip`))}
          >
            {SNIPPET.removeIt}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
