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
        <Copy className="size-4" aria-hidden /> Copy to other sites…
      </Button>
      <Dialog
        title={`Copy “${name}” to other sites`}
        description="As it is saved here, with the fields and page groups that it uses. It goes into their drafts; nothing is published."
        isOpen={isOpen}
        onOpenChange={openOrClose}
      >
        {!sites.data && <Loading lines={3} label="Loading the sites" />}
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
        <DialogActions leave={results ? 'Close' : 'Do not copy'}>
          {!results && (
            <Button
              look="primary"
              isBusy={copy.isPending}
              disabled={chosen.size === 0}
              onClick={() => copy.run([...chosen], setResults)}
            >
              {chosen.size === 0 ? 'Copy' : `Copy to ${chosen.size} ${chosen.size === 1 ? 'site' : 'sites'}`}
            </Button>
          )}
        </DialogActions>
      </Dialog>
    </>
  );
}
