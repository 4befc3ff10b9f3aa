import { SEVERITIES, type Finding } from '@pragmatica/core';
import { CircleCheck, Info, TriangleAlert } from 'lucide-react';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import type { PartValue } from './snippet-value';
import type { SnippetFindings } from './use-snippet-findings';
import { SNIPPET } from '../../texts/snippet';

const TONES: Record<Finding['severity'], string> = {
  error: 'text-danger',
  warning: 'text-signal',
  advice: 'text-primary',
};

interface FindingsPanelProps {
  readonly found: SnippetFindings | undefined;
  readonly onFix: (parts: PartValue[]) => void;
}

/** What the checks find about the snippet, before it is saved. */
export function FindingsPanel({ found, onFix }: FindingsPanelProps) {
  if (!found) return null;
  const { findings } = found;
  return (
    <section
      aria-label={SNIPPET.checkedRestSite}
      aria-live="polite"
      className="space-y-3 rounded-xl border border-line bg-surface p-4 sm:p-5"
    >
      <h2>{SNIPPET.checkedRestSite}</h2>
      {findings.length === 0 && (
        <p className="flex gap-1.5 text-sm text-good">
          <CircleCheck className="mt-0.5 size-4 shrink-0" aria-hidden /> {SNIPPET.fitsNothingHere}
        </p>
      )}
      <ul className="space-y-3">
        {SEVERITIES.flatMap((severity) =>
          findings
            .filter((finding) => finding.severity === severity)
            .map((finding) => {
              const { id, title, advice, fix } = finding;
              const fixed = found.fixAll(finding);
              const Icon = severity === 'advice' ? Info : TriangleAlert;
              return (
                <li key={id} className="flex gap-2 text-sm">
                  <Icon className={cn('mt-0.5 size-4 shrink-0', TONES[severity])} aria-hidden />
                  <span>
                    <span className="block font-medium">{title}</span>
                    <span className="text-muted">{advice}</span>
                    {fix && fixed && (
                      <Button size="small" className="mt-1.5 block" onClick={() => onFix(fixed)}>
                        {fix.title.replace(/\.$/, '')}
                      </Button>
                    )}
                  </span>
                </li>
              );
            }),
        )}
      </ul>
    </section>
  );
}
