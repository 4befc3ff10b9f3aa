import { Link } from 'react-router';
import type { SurveyedItem } from '../../api/surveys';
import { say } from '../../texts/say';
import { STRIP } from '../../texts/strip';
import { StandingBadge } from '../survey/standing-badge';
import { kindWords } from '../survey/kind-words';

/** So many are drawn; the rest are a click away. */
const MOST = 6;

interface ForeignItemsProps {
  readonly site: string;
  readonly path: string;
  /** What stands there and is not ours, in document order. */
  readonly items: readonly SurveyedItem[];
}

/** Scripts, styles and frames that the page has itself, as the last survey saw them. */
export function ForeignItems({ site, path, items }: ForeignItemsProps) {
  if (items.length === 0) return null;
  const shown = items.slice(0, MOST);
  return (
    <ul aria-label={STRIP.pageHasItself} className="mt-2 space-y-1">
      {shown.map((item, index) => (
        <li
          key={index}
          className="flex items-center gap-2 rounded border border-dashed border-line-strong bg-surface px-2 py-1 text-[13px]"
        >
          <Link
            to={`/sites/${site}/survey?open=${item.sighting ?? ''}`}
            className="min-w-0 truncate py-0.5 hover:underline"
          >
            {item.name || kindWords(item.kind)}
          </Link>
          <span className="text-muted">{kindWords(item.kind)}</span>
          {!item.isOwnFile && <StandingBadge standing={item.standing} className="ml-auto" />}
        </li>
      ))}
      {items.length > MOST && (
        <li className="w-fit rounded bg-surface px-1 text-[13px]">
          <Link
            className="text-primary underline"
            to={`/sites/${site}/survey/page?path=${encodeURIComponent(path)}`}
          >
            {say(STRIP.moreOfPage, { count: items.length - MOST })}
          </Link>
        </li>
      )}
    </ul>
  );
}
