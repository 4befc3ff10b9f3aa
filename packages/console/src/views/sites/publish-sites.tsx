import { useQuery } from '@tanstack/react-query';
import { LoaderCircle, Send } from 'lucide-react';
import { useState } from 'react';
import { usePublishSites, type Published } from '../../api/mutations';
import { unpublishedSitesQuery } from '../../api/site-lists';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field } from '../../ui/field';
import { ResultList } from '../../ui/result-list';
import { Failure, Loading } from '../../ui/states';
import { SITES } from '../../texts/sites';
import { say } from '../../texts/say';

/** Publishes the drafts of several sites, one after the other, each by itself. */
export function PublishSites({ count }: { count: number }) {
  const [isOpen, setOpen] = useState(false);
  const sites = useQuery({ ...unpublishedSitesQuery, enabled: isOpen });
  const waiting = (sites.data ?? []).filter(({ rights }) => rights.includes('publish'));
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [message, setMessage] = useState('');
  /** Those that are published are no longer among the others. */
  const [names, setNames] = useState<ReadonlyMap<string, string>>(new Map());
  const [results, setResults] = useState<readonly Published[]>();
  const publish = usePublishSites();
  if (count < 2 && !isOpen) return null;
  const chosen = waiting.filter(({ key }) => !left.has(key));
  const openOrClose = (open: boolean): void => {
    setOpen(open);
    setResults(undefined);
    setLeft(new Set());
  };
  const start = (): void => {
    setNames(new Map(chosen.map(({ key, name }) => [key, name])));
    setResults([]);
    publish.run({ sites: chosen.map(({ key }) => key), message, onEach: setResults });
  };
  const nameOf = (key: string): string => names.get(key) ?? key;
  return (
    <>
      <Button onClick={() => openOrClose(true)}>
        <Send className="size-4" aria-hidden /> {SITES.publishSeveral}
      </Button>
      <Dialog
        title={SITES.publishSeveralSites}
        description={SITES.eachBecomesRelease}
        isOpen={isOpen}
        onOpenChange={openOrClose}
      >
        {results ? (
          <div className="space-y-2">
            <ResultList
              results={results.map(({ site, isDone, text }) => ({
                ...{ key: site, isDone, message: text },
                title: <strong className="font-medium">{nameOf(site)}</strong>,
              }))}
            />
            {publish.isPending && (
              <p role="status" className="flex gap-2 text-sm text-muted">
                <LoaderCircle className="mt-0.5 size-4 animate-spin" aria-hidden /> {SITES.publishing}
              </p>
            )}
          </div>
        ) : (
          <div className="space-y-4">
            {sites.isPending && <Loading lines={3} label={SITES.loadingSites} />}
            {sites.isError && <Failure error={sites.error} onRetry={() => void sites.refetch()} />}
            <ul className="space-y-1">
              {waiting.map(({ key, name, pendingChanges, findings }) => (
                <li key={key}>
                  <label className="flex items-center gap-2 rounded px-1 py-1 text-sm hover:bg-line/40">
                    <input
                      type="checkbox"
                      className="size-4 accent-primary"
                      checked={!left.has(key)}
                      onChange={() => {
                        const next = new Set(left);
                        if (!next.delete(key)) next.add(key);
                        setLeft(next);
                      }}
                    />
                    <span className="flex-1">{name}</span>
                    <span className={findings.error > 0 ? 'text-danger' : 'text-muted'}>
                      {findings.error > 0
                        ? SITES.errorsFound
                        : say(SITES.pendingChanges, { count: pendingChanges })}
                    </span>
                  </label>
                </li>
              ))}
            </ul>
            <Field
              label={SITES.whatDoesChange}
              required
              placeholder={SITES.newAccountCounter}
              value={message}
              onChange={(event) => setMessage(event.target.value)}
            />
          </div>
        )}
        <DialogActions leave={results ? SITES.close : SITES.notNow}>
          {!results && (
            <Button look="signal" disabled={chosen.length === 0 || message.trim() === ''} onClick={start}>
              {say(SITES.publishCountSite, { count: chosen.length })}
            </Button>
          )}
        </DialogActions>
      </Dialog>
    </>
  );
}
