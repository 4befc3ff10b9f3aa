import { useQuery } from '@tanstack/react-query';
import { Copy } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useCopySnippets, type CopyResult } from '../../api/mutations';
import { allSitesQuery } from '../../api/site-lists';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { ResultList } from '../../ui/result-list';
import { Loading } from '../../ui/states';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

interface CopyButtonProps {
  readonly site: string;
  readonly snippets: readonly { readonly key: string; readonly name: string }[];
  readonly size?: 'small';
}

/** Copies snippets into the drafts of other sites, and says what became of each. */
export function CopyButton({ site, snippets, size }: CopyButtonProps) {
  const [isOpen, setOpen] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [results, setResults] = useState<readonly CopyResult[]>();
  const sites = useQuery(allSitesQuery);
  const copy = useCopySnippets(
    site,
    snippets.map(({ key }) => key),
  );
  const isOne = snippets.length === 1;
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
      <Button look={size === undefined ? 'quiet' : undefined} size={size} onClick={() => openOrClose(true)}>
        <Copy className="size-4" aria-hidden /> {SNIPPET.copyOtherSites}
      </Button>
      <Dialog
        title={
          isOne
            ? say(SNIPPET.copyNameOther, { name: snippets[0]!.name })
            : say(SNIPPET.copySeveral, { count: snippets.length })
        }
        description={SNIPPET.savedHereFields}
        isOpen={isOpen}
        onOpenChange={openOrClose}
      >
        {!sites.data && <Loading lines={3} label={SNIPPET.loadingSites} />}
        {results ? (
          <ResultList
            results={results.map((result) => ({
              ...result,
              key: `${result.site} ${result.snippet}`,
              title: (
                <Link to={`/sites/${result.site}/strip`} className="font-medium hover:underline">
                  {others.find(({ key }) => key === result.site)?.name ?? result.site}
                  {!isOne &&
                    ` – ${snippets.find(({ key }) => key === result.snippet)?.name ?? result.snippet}`}
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
