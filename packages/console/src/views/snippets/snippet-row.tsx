import type { SnippetResource } from '@pragmatica/contract';
import { placementWords, reachWords, withoutGroups, type Limits, type SiteReach } from '@pragmatica/core';
import { ScrollText } from 'lucide-react';
import { Link } from 'react-router';
import { say } from '../../texts/say';
import { SNIPPETS } from '../../texts/snippets';
import { cn } from '../../ui/cn';
import { SeverityCounts } from '../../ui/severity-counts';
import { firstPage } from '../snippet/first-page';
import { SnippetSwitch } from '../strip/snippet-switch';
import type { FindingCounts } from './count-by-snippet';

interface SnippetRowProps {
  readonly site: string;
  readonly snippet: SnippetResource;
  /** What the reaches of the site's snippets stand on. */
  readonly reach: SiteReach;
  readonly counts: FindingCounts | undefined;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
}

/** One snippet: what it is called, where it goes, when it runs, how it stands. */
export function SnippetRow({ site, snippet, reach, counts, isChosen, onChoose }: SnippetRowProps) {
  const { key, name, provider, state, parts, pages, limits } = snippet;
  const page = firstPage(withoutGroups(pages, reach.pageGroups ?? []));
  const places = [...new Set(parts.map((part) => placementWords(part.placement)))];
  return (
    <li className={cn('flex items-start gap-3 px-4 py-3', isChosen && 'bg-primary-soft/50')}>
      <input
        type="checkbox"
        aria-label={say(SNIPPETS.choose, { name })}
        className="mt-1 size-4 shrink-0 accent-(--primary)"
        checked={isChosen}
        onChange={onChoose}
      />
      <div className="min-w-0 flex-1">
        <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
          <Link
            to={`/sites/${site}/snippets/${key}`}
            className={cn('font-medium hover:underline', state !== 'on' && 'text-muted')}
          >
            {name}
          </Link>
          {provider !== '' && <span className="text-[13px] text-muted">{provider}</span>}
          {counts && (
            <Link to={`/sites/${site}/findings`}>
              <SeverityCounts counts={counts} />
            </Link>
          )}
        </div>
        <p className="text-[13px] text-muted">
          {places.join(', ')} · {reachWords({ ...(limits as Limits), pages }, reach)}
        </p>
        <Link
          to={`/sites/${site}/strip?path=${encodeURIComponent(page)}&of=draft`}
          aria-label={say(SNIPPETS.strip, { page })}
          className="inline-flex items-center gap-1 text-[13px] text-primary hover:underline"
        >
          <ScrollText className="size-3.5" aria-hidden /> {say(SNIPPETS.stripShort, { page })}
        </Link>
      </div>
      {state === 'archived' ? (
        <span className="text-[13px] text-muted">{SNIPPETS.archived}</span>
      ) : (
        <SnippetSwitch site={site} snippet={key} name={name} isOn={state === 'on'} />
      )}
    </li>
  );
}
