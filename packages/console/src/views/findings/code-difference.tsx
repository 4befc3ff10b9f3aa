import { diffLines } from 'diff';
import { cn } from '../../ui/cn';
import { FINDINGS } from '../../texts/findings';

/** Unchanged lines that are shown around a change. */
const AROUND = 3;

interface Line {
  readonly kind: 'same' | 'gone' | 'new';
  readonly text: string;
}

/** Two versions of a code, line by line: what goes, what comes, and a little of what stays around it. */
export function CodeDifference({ title, before, after }: { title: string; before: string; after: string }) {
  const lines = shorten(linesOf(before, after));
  return (
    <figure className="mt-3 overflow-hidden rounded-lg border border-line bg-raised">
      <figcaption className="border-b border-line px-3 py-1.5 text-[13px] text-muted">{title}</figcaption>
      <div className="max-h-64 overflow-auto py-1.5 font-mono text-xs">
        {lines.map((line, index) =>
          line === undefined ? (
            <p key={index} className="px-3 text-muted" aria-label={FINDINGS.linesStayThey}>
              ⋯
            </p>
          ) : (
            <p
              key={index}
              className={cn(
                'grid grid-cols-[1.25rem_minmax(0,1fr)] px-3 whitespace-pre-wrap [overflow-wrap:anywhere]',
                line.kind === 'gone' && 'bg-danger-soft text-danger',
                line.kind === 'new' && 'bg-primary-soft text-primary',
              )}
            >
              <span className="select-none" aria-label={LABELS[line.kind]}>
                {SIGNS[line.kind]}
              </span>
              <span>{line.text || ' '}</span>
            </p>
          ),
        )}
      </div>
    </figure>
  );
}

const SIGNS = { same: ' ', gone: '−', new: '+' } as const;
const LABELS = { same: undefined, gone: FINDINGS.lineGoes, new: FINDINGS.lineComes } as const;

function linesOf(before: string, after: string): Line[] {
  return diffLines(before, after, { ignoreNewlineAtEof: true }).flatMap(({ value, added, removed }) =>
    value
      .replace(/\n$/, '')
      .split('\n')
      .map((text): Line => ({ kind: added ? 'new' : removed ? 'gone' : 'same', text })),
  );
}

/** Long runs of what stays are left out; undefined stands for them. */
function shorten(lines: readonly Line[]): (Line | undefined)[] {
  const isNear = (at: number): boolean =>
    lines.slice(Math.max(0, at - AROUND), at + AROUND + 1).some(({ kind }) => kind !== 'same');
  return lines.flatMap((line, at) => {
    if (isNear(at)) return [line];
    return at > 0 && isNear(at - 1) ? [undefined] : [];
  });
}
