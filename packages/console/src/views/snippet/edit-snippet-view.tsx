import type { SnippetResource } from '@pragmatica/contract';
import { mergeSnippets } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Archive, ArchiveRestore, Trash2 } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useEditSnippet, useRemoveSnippet, useSwitchSnippet } from '../../api/mutations';
import { siteQuery, snippetQuery } from '../../api/queries';
import { useEditingHere, useLiveSite } from '../../layout/live-context';
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
import { EditingToo } from './editing-too';
import { SnippetForm } from './snippet-form';
import { SnippetComments } from './snippet-comments';
import { SnippetHistory } from './snippet-history';
import { MergeDialog } from './merge-dialog';
import { asSnippet, toValue, type SnippetValue } from './snippet-value';
import { SNIPPET } from '../../texts/snippet';
import { rich } from '../../texts/rich';
import { say } from '../../texts/say';

/** So often it is asked whether somebody else has saved it, where nobody tells. */
const LOOK_MS = 5_000;

/** A snippet with the entity tag that it had. */
interface Seen {
  readonly data: SnippetResource;
  readonly etag: string;
}

export function EditSnippetView() {
  const site = useSiteKey();
  const key = useParams()['snippet']!;
  const { isConnected } = useLiveSite();
  const snippet = useQuery({
    ...snippetQuery(site, key),
    refetchOnWindowFocus: false,
    refetchInterval: isConnected ? false : LOOK_MS,
  });
  if (snippet.isPending) return <Loading lines={5} label={SNIPPET.loadingSnippet} />;
  if (!snippet.data) return <Failure error={snippet.error} onRetry={() => void snippet.refetch()} />;
  return <SnippetEditor key={key} site={site} newest={snippet.data} />;
}

function SnippetEditor({ site, newest }: { site: string; newest: Seen }) {
  const { key } = newest.data;
  const toast = useToast();
  const edit = useEditSnippet(site, key);
  // What is edited: as it was when the form was filled in, whatever others have saved since.
  const [seen, setSeen] = useState(newest);
  const [isUnsaved, setUnsaved] = useState(false);
  useEditingHere(isUnsaved);
  const [merging, setMerging] = useState<SnippetValue>();
  const [taken, setTaken] = useState<{ release: number; value: SnippetValue }>();
  const isBehind = newest.data.version > seen.data.version;
  const latest = isBehind ? newest : seen;
  useEffect(() => {
    if (isBehind && !isUnsaved) setSeen(newest);
  }, [isBehind, isUnsaved, newest]);
  const theirs = useChanges(site, seen.data, latest.data);
  const save = (value: SnippetValue, { etag }: Seen, said: string): void =>
    edit.run({ etag, body: value }, (result) => {
      if (result === 'changed') {
        setMerging(value);
        return;
      }
      setMerging(undefined);
      setTaken(undefined);
      setSeen(result);
      setUnsaved(false);
      toast({ tone: 'done', title: said, text: SNIPPET.visitorsGetWhen });
    });
  const isFree = merging !== undefined && isBehind && theirs.length === 0 && !edit.isPending;
  useEffect(() => {
    // It was switched, or put into another order: that is no matter of what is in the form.
    if (isFree) save(merging, latest, SNIPPET.savedDraft);
  });
  const submit = (value: SnippetValue): void => {
    if (theirs.length > 0) setMerging(value);
    // Whatever else was done to it since, such as switching it, changes nothing of what is in the form.
    else save(value, latest, SNIPPET.savedDraft);
  };
  const { data, etag } = latest;
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
      <EditingToo snippet={key} />
      <div role="status" className="max-w-4xl">
        {isUnsaved && theirs.length > 0 && (
          <p className="rounded-lg bg-signal-soft p-3 text-sm text-signal">
            {say(SNIPPET.changedMeanwhile, { name: data.updatedBy, what: theirs })}
          </p>
        )}
      </div>
      {taken && (
        <p role="status" className="max-w-4xl rounded-lg bg-signal-soft p-3 text-sm text-signal">
          {say(SNIPPET.filledWasRelease, { release: taken.release })}
          <button type="button" className="underline" onClick={() => setTaken(undefined)}>
            {SNIPPET.leave}
          </button>
        </p>
      )}
      <SnippetForm
        key={`${seen.etag} ${taken?.release ?? ''}`}
        site={site}
        snippet={key}
        state={data.state}
        initial={taken?.value ?? toValue(seen.data)}
        submitLabel={SNIPPET.saveDraft}
        isBusy={edit.isPending}
        error={merging ? null : edit.error}
        isHeld={merging !== undefined}
        onSubmit={submit}
        onUnsaved={setUnsaved}
      >
        <CopyButton site={site} snippets={[{ key, name: data.name }]} />
        <ArchiveButton site={site} snippet={key} name={data.name} state={data.state} />
        <RemoveButton site={site} snippet={key} name={data.name} etag={etag} />
      </SnippetForm>
      {merging && isBehind && theirs.length > 0 && (
        <MergeDialog
          site={site}
          base={seen.data}
          theirs={data}
          yours={merging}
          isBusy={edit.isPending}
          error={edit.error}
          onSave={(merged) => save(merged, latest, say(SNIPPET.savedTogether, { name: data.updatedBy }))}
          onClose={() => setMerging(undefined)}
        />
      )}
      <SnippetComments site={site} snippet={key} />
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

/** What differs between two versions in what the form shows, in words. */
function useChanges(site: string, before: SnippetResource, after: SnippetResource): readonly string[] {
  const definitions = useQuery(siteQuery(site)).data?.data;
  return useMemo(() => {
    const [was, is] = [asSnippet(toValue(before)), asSnippet(toValue(after))];
    const about = { key: site, name: '', timeZone: definitions?.timeZone ?? 'UTC' };
    return mergeSnippets(was, is, was, about).theirs;
  }, [site, definitions, before, after]);
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
