import type { OpenFindingResource } from '@pragmatica/contract';
import { SEVERITIES, type Severity } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { CircleCheck } from 'lucide-react';
import { ToggleGroup } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import { draftQuery, findingsQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { Button } from '../../ui/button';
import { Empty, Failure, Loading } from '../../ui/states';
import { FindingCard } from './finding-card';
import { FixAllButton } from './fix-all-button';
import { UnknownSection } from './unknown-section';
import { WaivedCard } from './waived-card';
import { FINDINGS } from '../../texts/findings';

const HEADINGS: Record<Severity, { title: string; text: string }> = {
  error: { title: FINDINGS.wrong, text: FINDINGS.somethingDoesNot },
  warning: { title: FINDINGS.doubtful, text: FINDINGS.probablyDoesNot },
  advice: { title: FINDINGS.worthThought, text: FINDINGS.worksMightWork },
};

/** What the checks find in the draft, the worst first. */
export function FindingsView() {
  const site = useSiteKey();
  const findings = useQuery(findingsQuery(site));
  const [by, setBy] = useState<Grouping>('severity');
  const draft = useQuery(draftQuery(site)).data?.data.snapshot;
  const items = findings.data?.items ?? [];
  const waived = findings.data?.waived ?? [];
  const groups = by === 'severity' ? bySeverity(items) : bySnippet(items);
  const isEmpty = findings.data !== undefined && items.length === 0 && draft?.snippets.length === 0;
  const fixable = items.filter(({ fix }) => fix);
  return (
    <div className="max-w-4xl space-y-6">
      <div>
        <h1>{FINDINGS.findings}</h1>
        <p className="text-sm text-muted">{FINDINGS.whatChecksFind}</p>
      </div>
      {items.length > 1 && (
        <div className="flex flex-wrap items-center gap-3">
          <ToggleGroup.Root
            type="single"
            value={by}
            onValueChange={(value) => value && setBy(value as Grouping)}
            aria-label={FINDINGS.whichOrder}
            className="flex rounded-md border border-line-strong bg-raised p-0.5 text-sm"
          >
            {GROUPINGS.map(({ value, label }) => (
              <ToggleGroup.Item
                key={value}
                value={value}
                className="rounded px-2.5 py-1 text-muted data-[state=on]:bg-primary-soft data-[state=on]:font-medium data-[state=on]:text-primary"
              >
                {label}
              </ToggleGroup.Item>
            ))}
          </ToggleGroup.Root>
          {fixable.length > 1 && <FixAllButton site={site} count={fixable.length} />}
        </div>
      )}
      {findings.isPending && <Loading label={FINDINGS.lookingThroughAll} />}
      {findings.isError && <Failure error={findings.error} onRetry={() => void findings.refetch()} />}
      {isEmpty && (
        <Empty
          title={FINDINGS.noSnippets}
          action={
            <Button asChild look="primary">
              <Link to="../snippets/new">{FINDINGS.addSnippet}</Link>
            </Button>
          }
        >
          {FINDINGS.noSnippetsText}
        </Empty>
      )}
      {findings.data && items.length === 0 && !isEmpty && (
        <div className="flex items-center gap-3 rounded-xl border border-line bg-surface p-5">
          <CircleCheck className="size-6 shrink-0 text-good" aria-hidden />
          <div>
            <p className="font-semibold">{FINDINGS.allOrder}</p>
            <p className="text-sm text-muted">{FINDINGS.checksHaveRead}</p>
          </div>
        </div>
      )}
      {groups.map(({ title, text, some }) => (
        <section key={title} aria-label={title} className="space-y-3">
          <h2>
            {title} <span className="font-normal text-muted">({some.length})</span>
            {text !== '' && <span className="ml-2 text-sm font-normal text-muted">{text}</span>}
          </h2>
          <ul className="space-y-3">
            {some.map((finding) => (
              <FindingCard key={finding.id} site={site} finding={finding} />
            ))}
          </ul>
        </section>
      ))}
      {waived.length > 0 && (
        <section aria-label={FINDINGS.accepted} className="space-y-3">
          <h2>
            {FINDINGS.accepted} <span className="font-normal text-muted">({waived.length})</span>
          </h2>
          <ul className="space-y-3">
            {waived.map((finding) => (
              <WaivedCard key={finding.id} site={site} finding={finding} />
            ))}
          </ul>
        </section>
      )}
      {!isEmpty && <UnknownSection unknown={findings.data?.unknown ?? []} />}
    </div>
  );
}

type Grouping = 'severity' | 'snippet';

const GROUPINGS: readonly { readonly value: Grouping; readonly label: string }[] = [
  { value: 'severity', label: FINDINGS.worstFirst },
  { value: 'snippet', label: FINDINGS.snippet },
];

interface Group {
  readonly title: string;
  readonly text: string;
  readonly some: readonly OpenFindingResource[];
}

function bySeverity(items: readonly OpenFindingResource[]): Group[] {
  return SEVERITIES.map((severity) => ({
    ...HEADINGS[severity],
    some: items.filter((finding) => finding.severity === severity),
  })).filter(({ some }) => some.length > 0);
}

/** Each finding once, at the snippet that it is about first. */
function bySnippet(items: readonly OpenFindingResource[]): Group[] {
  const names = new Map(
    items.flatMap(({ subjects: [first] }) => (first ? [[first.snippet, first.name]] : [])),
  );
  const ofSite = items.filter(({ subjects }) => subjects.length === 0);
  const groups = [...names]
    .sort(([, a], [, b]) => a.localeCompare(b))
    .map(([snippet, title]) => ({
      title,
      text: '',
      some: items.filter(({ subjects }) => subjects[0]?.snippet === snippet),
    }));
  return ofSite.length === 0 ? groups : [...groups, { title: FINDINGS.siteItself, text: '', some: ofSite }];
}
