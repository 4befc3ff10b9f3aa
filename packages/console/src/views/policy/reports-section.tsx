import type { PolicyResource } from '@pragmatica/contract';
import { allowSource, isSourceAllowed } from '@pragmatica/core';
import { useClearReports, useSetPolicy } from '../../api/policy';
import { POLICY } from '../../texts/policy';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Time } from '../../ui/time';
import { useToast } from '../../ui/toast';
import { Section } from '../../ui/section';

interface ReportsSectionProps {
  readonly site: string;
  readonly view: PolicyResource;
}

/** What the policy stops, or would, whose doing it is, and what would allow it. */
export function ReportsSection({ site, view }: ReportsSectionProps) {
  const { host, mode, own, reports } = view;
  const set = useSetPolicy(site, host);
  const clear = useClearReports(site, host);
  const toast = useToast();
  const allow = (directive: string, source: string): void =>
    set.run({ mode, own: allowSource(own, { directive, source }) }, () =>
      toast({ tone: 'done', title: say(POLICY.allowedTitle, { directive, source }) }),
    );
  return (
    <Section title={POLICY.reportsTitle}>
      {reports.length === 0 && (
        <p className="text-muted">
          {POLICY.reportsNone} {mode === 'off' ? POLICY.reportsOff : POLICY.reportsWait}
        </p>
      )}
      {reports.length > 0 && (
        <>
          <ul className="divide-y divide-line border-y border-line">
            {reports.map((report) => (
              <li key={report.id} className="flex flex-wrap items-center gap-x-4 gap-y-1.5 py-2.5">
                <span className="min-w-60 flex-1">
                  <span className="block [overflow-wrap:anywhere]">{report.message}</span>
                  <span className="text-[13px] text-muted">
                    {say(POLICY.count, { count: report.count })}, {say(POLICY.seenOn, { path: report.path })}{' '}
                    <Time at={report.lastAt} />
                  </span>
                </span>
                {report.allow && !isSourceAllowed(own, report.allow) && (
                  <Button
                    size="small"
                    isBusy={set.isPending}
                    onClick={() => allow(report.allow!.directive, report.allow!.source)}
                  >
                    {say(POLICY.allow, { source: report.allow.source })}
                  </Button>
                )}
              </li>
            ))}
          </ul>
          <Button
            size="small"
            look="quiet"
            isBusy={clear.isPending}
            onClick={() =>
              clear.run(undefined, () => toast({ tone: 'done', title: POLICY.clear, text: POLICY.cleared }))
            }
          >
            {POLICY.clear}
          </Button>
        </>
      )}
      {!view.canSend && (
        <p className="text-[13px] [overflow-wrap:anywhere] text-muted">
          {say(POLICY.reportsTo, { address: view.reportsTo })}
        </p>
      )}
    </Section>
  );
}
