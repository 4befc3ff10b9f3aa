import { SEVERITIES, type Severity } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { CircleCheck } from 'lucide-react';
import { findingsQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { Failure, Loading } from '../../ui/states';
import { FindingCard } from './finding-card';

const HEADINGS: Record<Severity, { title: string; text: string }> = {
  error: { title: 'Wrong', text: 'Something does not work, or breaks the page.' },
  warning: { title: 'Doubtful', text: 'It probably does not do what you want.' },
  advice: { title: 'Worth a thought', text: 'It works. It might work better.' },
};

/** What the checks find in the draft, the worst first. */
export function FindingsRoom() {
  const site = useSiteKey();
  const findings = useQuery(findingsQuery(site));
  return (
    <div className="max-w-4xl space-y-6">
      <div>
        <h1>Findings</h1>
        <p className="text-sm text-muted">
          What the checks find in your draft: where, why it matters and what to do. Nothing here has gone live
          by itself.
        </p>
      </div>
      {findings.isPending && <Loading label="Looking through all snippets" />}
      {findings.isError && <Failure error={findings.error} onRetry={() => void findings.refetch()} />}
      {findings.data?.items.length === 0 && (
        <div className="flex items-center gap-3 rounded-xl border border-line bg-surface p-5">
          <CircleCheck className="size-6 shrink-0 text-good" aria-hidden />
          <div>
            <p className="font-semibold">All in order</p>
            <p className="text-sm text-muted">
              The checks have read every snippet and found nothing to say. They look again after each change.
            </p>
          </div>
        </div>
      )}
      {SEVERITIES.map((severity) => {
        const some = findings.data?.items.filter((finding) => finding.severity === severity) ?? [];
        if (some.length === 0) return null;
        return (
          <section key={severity} aria-label={HEADINGS[severity].title} className="space-y-3">
            <h2>
              {HEADINGS[severity].title} <span className="font-normal text-muted">({some.length})</span>
              <span className="ml-2 text-sm font-normal text-muted">{HEADINGS[severity].text}</span>
            </h2>
            <ul className="space-y-3">
              {some.map((finding) => (
                <FindingCard key={finding.id} site={site} finding={finding} />
              ))}
            </ul>
          </section>
        );
      })}
    </div>
  );
}
