import type { SiteResult } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { Copy } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useCopySnippet } from '../../api/mutations';
import { allSitesQuery } from '../../api/site-lists';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { ResultList } from '../../ui/result-list';
import { Loading } from '../../ui/states';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

/** Copies the snippet into the drafts of other sites, and says what became of each. */
export function CopyButton({ site, snippet, name }: { site: string; snippet: string; name: string }) {
  const [isOpen, setOpen] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [results, setResults] = useState<readonly SiteResult[]>();
  const sites = useQuery(allSitesQuery);
  const copy = useCopySnippet(site, snippet);
  const others = sites.data?.filter(({ key }) => key !== site) ?? [];
  const toggle = (key: string): void => {
    const next = new Set(chosen);
    if (!next.delete(key)) next.add(key);
    setChosen(next);
  };
  const openOrClose = (open: boolean): void => {
    setOpen(open);
    setChosen(new Set());
    setResults(undefined);
  };
  if (sites.data && others.length === 0) return null;
  return (
    <>
      <Button look="quiet" onClick={() => openOrClose(true)}>
        <Copy className="size-4" aria-hidden /> {SNIPPET.copyOtherSites}
      </Button>
      <Dialog
        title={say(SNIPPET.copyNameOther, { name })}
        description={SNIPPET.savedHereFields}
        isOpen={isOpen}
        onOpenChange={openOrClose}
      >
        {!sites.data && <Loading lines={3} label={SNIPPET.loadingSites} />}
        {results ? (
          <ResultList
            results={results.map((result) => ({
              ...result,
              key: result.site,
              title: (
                <Link to={`/sites/${result.site}/strip`} className="font-medium hover:underline">
                  {others.find(({ key }) => key === result.site)?.name ?? result.site}
                </Link>
              ),
            }))}
          />
        ) : (
          <ul className="space-y-1">
            {others.map(({ key, name: siteName }) => (
              <li key={key}>
                <label className="flex items-center gap-2 rounded px-1 py-1 text-sm hover:bg-line/40">
                  <input
                    type="checkbox"
                    className="size-4 accent-primary"
                    checked={chosen.has(key)}
                    onChange={() => toggle(key)}
                  />
                  {siteName}
                </label>
              </li>
            ))}
          </ul>
        )}
        <DialogActions leave={results ? SNIPPET.close : SNIPPET.doNotCopy}>
          {!results && (
            <Button
              look="primary"
              isBusy={copy.isPending}
              disabled={chosen.size === 0}
              onClick={() => copy.run([...chosen], setResults)}
            >
              {chosen.size === 0 ? SNIPPET.copy : say(SNIPPET.copySizeSite, { size: chosen.size })}
            </Button>
          )}
        </DialogActions>
      </Dialog>
    </>
  );
}
