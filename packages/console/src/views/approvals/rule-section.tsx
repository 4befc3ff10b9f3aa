import { useInfiniteQuery } from '@tanstack/react-query';
import { useId } from 'react';
import { approvalsQuery, useApprovalRule } from '../../api/approvals';
import { APPROVALS } from '../../texts/approvals';
import { Section } from '../../ui/section';
import { Switch } from '../../ui/switch';

/** Whether what goes live needs somebody else’s approval. */
export function RuleSection({ site }: { site: string }) {
  const id = useId();
  const rule = useInfiniteQuery(approvalsQuery(site)).data?.pages[0]?.rule;
  const change = useApprovalRule(site);
  if (!rule) return null;
  return (
    <Section title={APPROVALS.ruleTitle} text={APPROVALS.ruleText}>
      <div className="flex items-center gap-2.5">
        <Switch
          id={id}
          needs="own"
          checked={rule.isNeeded}
          disabled={change.isPending}
          onCheckedChange={(isNeeded) => change.run(isNeeded)}
        />
        <label htmlFor={id} className="font-medium">
          {APPROVALS.ruleSwitch}
        </label>
      </div>
    </Section>
  );
}
