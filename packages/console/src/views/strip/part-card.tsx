import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { summaryLine } from '@pragmatica/core';
import { GripVertical, Hourglass, TriangleAlert } from 'lucide-react';
import { Link } from 'react-router';
import { cn } from '../../ui/cn';
import { useMay } from '../../ui/may';
import type { PlannedPart, StripContext } from './strip-context';
import { SnippetSwitch } from './snippet-switch';
import { STRIP } from '../../texts/strip';
import { say } from '../../texts/say';

interface PartCardProps {
  part: PlannedPart;
  context: StripContext;
  isDraggable: boolean;
}

export function PartCard({ part, context, isDraggable: isMovable }: PartCardProps) {
  const mayEdit = useMay('edit');
  const isDraggable = isMovable && mayEdit;
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id: part.key, disabled: !isDraggable });
  const snippet = context.snapshot.snippets.find((entry) => entry.key === part.snippet);
  const number = Number(part.key.split('/')[1]);
  const total = snippet?.parts.length ?? 1;
  const findings = context.findings.get(part.key) ?? [];
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={cn(
        'flex items-center gap-2 rounded-lg border border-line bg-raised py-2 pr-3 pl-1.5',
        isDragging && 'relative z-10 border-primary shadow-card',
      )}
    >
      {isDraggable ? (
        <button
          ref={setActivatorNodeRef}
          type="button"
          aria-label={say(STRIP.moveName, { name: part.name })}
          className="cursor-grab touch-none rounded p-0.5 text-muted hover:text-ink active:cursor-grabbing"
          {...attributes}
          {...listeners}
        >
          <GripVertical className="size-4" aria-hidden />
        </button>
      ) : (
        <span className="w-5" />
      )}
      <span
        className="grid size-6 shrink-0 place-items-center rounded-full bg-paper font-mono text-xs text-muted"
        title={STRIP.positionPage}
      >
        {context.position.get(part.key)}
      </span>
      <div className="min-w-0 flex-1">
        <p className="flex flex-wrap items-center gap-x-2">
          {snippet ? (
            <Link to={`../snippets/${part.snippet}`} className="py-0.5 font-medium hover:underline">
              {part.name}
            </Link>
          ) : (
            <span className="font-medium">{part.name}</span>
          )}
          {total > 1 && (
            <span className="text-xs text-muted">{say(STRIP.partNumberTotal, { number, total })}</span>
          )}
          {snippet?.provider && <span className="text-xs text-muted">{snippet.provider}</span>}
          {context.changed.has(part.snippet) && (
            <span className="rounded-full bg-signal-soft px-1.5 text-xs font-medium text-signal">
              {STRIP.notLive}
            </span>
          )}
        </p>
        {part.waits !== undefined && (
          <p className="flex items-center gap-1 text-[13px] text-muted">
            <Hourglass className="size-3.5 shrink-0" aria-hidden />{' '}
            {say(STRIP.browserWaitsWaits, { waits: part.waits })}
          </p>
        )}
        {findings.map(({ id, title, severity }) => (
          <p key={id} className="flex items-start gap-1 text-[13px]">
            <TriangleAlert
              className={cn('mt-0.5 size-3.5 shrink-0', severity === 'error' ? 'text-danger' : 'text-signal')}
              aria-hidden
            />
            <Link to="../findings" className="hover:underline">
              {title}
            </Link>
          </p>
        ))}
        <p className="truncate font-mono text-xs text-muted" title={part.code}>
          {summaryLine(sourceOf(part, snippet))}
        </p>
      </div>
      {snippet && context.isEditable && number === 1 && (
        <SnippetSwitch
          site={context.site}
          snippet={part.snippet}
          name={part.name}
          isOn={snippet.state === 'on'}
        />
      )}
    </li>
  );
}

/** The part's own code; what is wrapped around it for waiting tells nothing. */
function sourceOf(
  part: PlannedPart,
  snippet: StripContext['snapshot']['snippets'][number] | undefined,
): string {
  return snippet?.parts[Number(part.key.split('/')[1]) - 1]?.code ?? part.code;
}
