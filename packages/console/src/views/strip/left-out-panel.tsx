import type { PagePlanResource } from '@pragmatica/contract';
import { Link } from 'react-router';
import { cn } from '../../ui/cn';
import { SnippetSwitch } from './snippet-switch';
import { STRIP } from '../../texts/strip';
import { say } from '../../texts/say';

interface LeftOutPanelProps {
  site: string;
  plan: PagePlanResource;
  isEditable: boolean;
  /** Turns to the draft, in which what is not published can be seen. */
  onShowDraft: () => void;
  className?: string;
}

type LeftOut = PagePlanResource['leftOut'][number];

/** What this page load does not get, each with every reason and the way to what would change it. */
export function LeftOutPanel({ site, plan, isEditable, onShowDraft, className }: LeftOutPanelProps) {
  return (
    <section
      aria-label={STRIP.notPage}
      className={cn('rounded-xl border border-line bg-surface p-4', className)}
    >
      <h2>{STRIP.notPage}</h2>
      {plan.leftOut.length === 0 && <p className="mt-1 text-sm text-muted">{STRIP.everySnippetRuns}</p>}
      <ul className="mt-2 divide-y divide-line">
        {plan.leftOut.map((entry) => (
          <li key={entry.snippet} className="flex items-start gap-3 py-2">
            <div className="min-w-0 flex-1">
              <Link to={`../snippets/${entry.snippet}`} className="text-sm font-medium hover:underline">
                {entry.name}
              </Link>
              {entry.reasons.map(({ reason, message }) => (
                <p key={reason} className="text-[13px] text-muted">
                  {message}
                </p>
              ))}
              <WayOut entry={entry} onShowDraft={onShowDraft} />
            </div>
            {isEditable && entry.reason === 'off' && (
              <SnippetSwitch site={site} snippet={entry.snippet} name={entry.name} isOn={false} />
            )}
          </li>
        ))}
      </ul>
      {plan.untilLocal !== null && (
        <p className="mt-2 border-t border-line pt-2 text-[13px] text-muted">
          {say(STRIP.openingHoursChange, { untilLocal: plan.untilLocal })}
        </p>
      )}
    </section>
  );
}

/** What one could do about the first reason. */
function WayOut({ entry, onShowDraft }: { entry: LeftOut; onShowDraft: () => void }) {
  const style = 'text-[13px] text-primary underline';
  if (entry.reasons.some(({ reason }) => reason === 'not-published'))
    return (
      <button type="button" className={style} onClick={onShowDraft}>
        {STRIP.lookDraft}
      </button>
    );
  if (entry.reason === 'off' || entry.reason === 'archived') return null;
  const isPages = entry.reason === 'excluded' || entry.reason === 'not-included';
  return (
    <Link to={`../snippets/${entry.snippet}#${isPages ? 'pages' : 'reach'}`} className={style}>
      {entry.reason === 'no-code' ? STRIP.addCode : isPages ? STRIP.changePages : STRIP.changeWhenRuns}
    </Link>
  );
}
